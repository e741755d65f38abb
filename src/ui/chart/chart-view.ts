'use client';

import { createContext, useContext } from 'react';

/** What lies over a chart moves with it: the stretch of x in view, and a way to have the values at an x shown. */
export interface ChartView {
  readonly xRange: readonly [number, number];
  /** Shows the values at this x; null: no longer. */
  readonly point: (x: number | null) => void;
}

const Context = createContext<ChartView | null>(null);
export const ChartViewProvider = Context.Provider;
/** The view of the chart this lies over; null outside one. */
export const useChartView = (): ChartView | null => useContext(Context);

/** The stretch after zooming in or out about its middle, never beyond the whole. Null: the whole again. */
export function zoomed(
  now: readonly [number, number],
  whole: readonly [number, number],
  factor: number,
  about = (now[0] + now[1]) / 2,
): readonly [number, number] | null {
  const span = (now[1] - now[0]) * factor;
  if (span >= (whole[1] - whole[0]) * 0.999) return null;
  const share = (about - now[0]) / (now[1] - now[0]);
  return moved([about - share * span, about + (1 - share) * span], whole, 0);
}

/** The stretch moved by a share of itself, kept inside the whole. */
export function moved(now: readonly [number, number], whole: readonly [number, number], share: number): readonly [number, number] {
  const span = now[1] - now[0];
  const low = Math.min(Math.max(now[0] + share * span, whole[0]), whole[1] - span);
  return [low, low + span];
}
