'use client';

import { useCallback, useEffect, useRef, useState } from 'react';

export interface Readings<R> {
  readonly state: 'off' | 'opening' | 'live' | 'away';
  readonly last: R | null;
  readonly open: (url: string) => void;
  readonly close: () => void;
}

/** A device's readings as they come; `onReading` is told each. A connection that breaks off is said to be away and taken up again by itself. */
export function useReadings<R>(onReading: (reading: R) => void = () => {}): Readings<R> {
  const source = useRef<EventSource | null>(null);
  const told = useRef(onReading);
  useEffect(() => {
    told.current = onReading;
  });
  const [state, setState] = useState<Readings<R>['state']>('off');
  const [last, setLast] = useState<R | null>(null);
  const close = useCallback(() => {
    source.current?.close();
    source.current = null;
    setState('off');
  }, []);
  const open = useCallback(
    (url: string) => {
      source.current?.close();
      setState('opening');
      setLast(null);
      const made = new EventSource(url);
      source.current = made;
      made.onmessage = (e: MessageEvent<string>) => {
        const reading = JSON.parse(e.data) as R;
        setState('live');
        setLast(reading);
        told.current(reading);
      };
      made.onerror = () => setState('away');
      made.addEventListener('end', close);
    },
    [close],
  );
  useEffect(() => () => source.current?.close(), []);
  return { state, last, open, close };
}
