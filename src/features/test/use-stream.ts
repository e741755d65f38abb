'use client';

import { useCallback, useEffect, useRef, useState } from 'react';

export interface Stream<R> {
  readonly state: 'off' | 'running' | 'away';
  /** What has come in, drawn from as it grows. */
  readonly readings: readonly R[];
  readonly start: (url: string, onDone: (readings: readonly R[]) => void) => void;
  readonly stop: () => void;
}

/** A series of a device's readings, to its end. The picture follows them at the screen's pace, not theirs. */
export function useStream<R>(): Stream<R> {
  const source = useRef<EventSource | null>(null);
  const held = useRef<R[]>([]);
  const frame = useRef(0);
  const [state, setState] = useState<Stream<R>['state']>('off');
  const [readings, setReadings] = useState<readonly R[]>([]);
  const close = useCallback(() => {
    source.current?.close();
    source.current = null;
    cancelAnimationFrame(frame.current);
    frame.current = 0;
  }, []);
  useEffect(() => close, [close]);
  const start = useCallback<Stream<R>['start']>(
    (url, onDone) => {
      close();
      held.current = [];
      setReadings([]);
      setState('running');
      const made = new EventSource(url);
      source.current = made;
      made.onmessage = (e: MessageEvent<string>) => {
        held.current.push(JSON.parse(e.data) as R);
        if (frame.current !== 0) return;
        frame.current = requestAnimationFrame(() => {
          frame.current = 0;
          setReadings([...held.current]);
        });
      };
      made.addEventListener('end', () => {
        close();
        setReadings([...held.current]);
        setState('off');
        onDone(held.current);
      });
      // Half a series is none: the browser must not take it up again from the start.
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
