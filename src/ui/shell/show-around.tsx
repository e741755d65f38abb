'use client';

import { Tour, type TourProps } from 'antd';
import { useMemo } from 'react';

interface Stop {
  readonly at: string;
  readonly title: string;
  readonly description: string;
}

/** What there is to see on a page, in the order it is looked at; what a page has not is left out. */
const STOPS: readonly Stop[] = [
  {
    at: 'answer',
    title: 'The answer',
    description: 'Every page begins with what it comes to, in one sentence. It follows each figure as you type it.',
  },
  {
    at: 'spine',
    title: 'Seven steps',
    description: 'Car to Verdict, each with its own finding. Keys 1 to 7 go there. A half-filled dot is begun, a full one settled.',
  },
  {
    at: 'aside',
    title: 'Figures beside the picture',
    description: 'A figure with a dotted line opens its working: the formula, what went in, and where it comes from. So do dotted words.',
  },
  { at: 'units', title: 'Your units', description: 'Any field takes any unit as well: 2.35in, 60, 28 inH2O.' },
  {
    at: 'search',
    title: 'Search or run a command',
    description: 'Press / anywhere: a car, an owner, a throttle, a run, or something to do.',
  },
];

const place = (at: string): HTMLElement | null => document.querySelector<HTMLElement>(`[data-tour="${at}"]`);

/** A walk over the page, step by step; it ends with Escape, and changes nothing. */
export function ShowAround({ onClose }: { onClose: () => void }) {
  const steps = useMemo(
    (): TourProps['steps'] =>
      STOPS.flatMap(({ at, title, description }) => {
        const target = place(at);
        return target === null || target.offsetParent === null ? [] : [{ title, description, target: () => place(at)! }];
      }),
    [],
  );
  return <Tour open steps={steps ?? []} onClose={onClose} />;
}
