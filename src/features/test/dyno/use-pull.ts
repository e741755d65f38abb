'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import type { DynoReading } from '@/core/stand-ins/dyno';

export interface Pull {
  readonly state: 'off' | 'running' | 'away';
  /** What has come in of the pull, drawn from as it grows. */
  readonly readings: readonly DynoReading[];
  readonly start: (url: string, onDone: (readings: readonly DynoReading[]) => void) => void;
  readonly stop: () => void;
}

/** The picture follows the readings at the screen's pace, not theirs. */
export function usePull(): Pull {
  const source = useRef<EventSource | null>(null);
  const held = useRef<DynoReading[]>([]);
  const frame = useRef(0);
  const [state, setState] = useState<Pull['state']>('off');
  const [readings, setReadings] = useState<readonly DynoReading[]>([]);
  const close = useCallback(() => {
    source.current?.close();
    source.current = null;
    cancelAnimationFrame(frame.current);
    frame.current = 0;
  }, []);
  useEffect(() => close, [close]);
  const start = useCallback<Pull['start']>(
    (url, onDone) => {
      close();
      held.current = [];
      setReadings([]);
      setState('running');
      const made = new EventSource(url);
      source.current = made;
      made.onmessage = (e: MessageEvent<string>) => {
        held.current.push(JSON.parse(e.data) as DynoReading);
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
      // Half a pull is none: the browser must not take it up again from the start.
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
