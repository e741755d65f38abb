'use client';

import { Tour, type TourProps } from 'antd';
import { useMemo } from 'react';
import { msg } from './messages';

interface Stop {
  readonly at: string;
  readonly title: string;
  readonly description: string;
}

/** What there is to see on a page, in the order it is looked at; what a page has not is left out. */
const STOPS: readonly Stop[] = [
  {
    at: 'answer',
    title: msg.theAnswer,
    description: msg.everyPageBeginsWithWhatIt,
  },
  {
    at: 'spine',
    title: msg.sevenSteps,
    description: msg.carToVerdictEachWithIts,
  },
  {
    at: 'aside',
    title: msg.figuresBesideThePicture,
    description: msg.aFigureWithADottedLine,
  },
  { at: 'units', title: msg.yourUnits, description: msg.anyFieldTakesAnyUnitAs },
  {
    at: 'search',
    title: msg.searchOrRunACommand,
    description: msg.pressAnywhereACarAnOwner,
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
