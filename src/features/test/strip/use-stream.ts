'use client';

import { useCallback, useEffect, useRef, useState } from 'react';

export interface Stream<R> {
  readonly state: 'off' | 'running' | 'away';
  readonly readings: readonly R[];
  readonly start: (url: string, onDone: (readings: readonly R[]) => void) => void;
  readonly stop: () => void;
}

/** Readings of a device as they come in, a few a second. Half a series is none: it is never taken up again from the start. */
export function useStream<R>(): Stream<R> {
  const source = useRef<EventSource | null>(null);
  const [state, setState] = useState<Stream<R>['state']>('off');
  const [readings, setReadings] = useState<readonly R[]>([]);
  const close = useCallback(() => {
    source.current?.close();
    source.current = null;
  }, []);
  useEffect(() => close, [close]);
  const start = useCallback<Stream<R>['start']>(
    (url, onDone) => {
      close();
      let all: readonly R[] = [];
      setReadings(all);
      setState('running');
      const made = new EventSource(url);
      source.current = made;
      made.onmessage = (e: MessageEvent<string>) => {
        all = [...all, JSON.parse(e.data) as R];
        setReadings(all);
      };
      made.addEventListener('end', () => {
        close();
        setState('off');
        onDone(all);
      });
      made.onerror = () => {
        if (source.current !== made) return;
        close();
        setState('away');
      };
    },
    [close],
  );
  const stop = useCallback(() => {
    close();
    setState('off');
    setReadings([]);
  }, [close]);
  return { state, readings, start, stop };
}
