import { capital } from '../cut-text';
import type { RunDoc } from '../documents/run';
import { atSteps, type TracedCurve } from './trace';
import type { Point } from './plane';

/** What a person says that a curve of a picture is. */
export interface PictureCurve {
  readonly picture: string;
  readonly quantity: 'power' | 'torque';
  /** Label of the unit its axis is in. */
  readonly unit: string;
  readonly at: RunDoc['measuredAt'];
  readonly carried: RunDoc['carried'];
}

/** Engine speeds a curve read off a picture is kept at, rpm. */
const PICTURE_STEP_rpm = 50;

/** Reading error in percent of the curve's upper heights: what a third of it lies over. */
export function readingError_pct(curve: Pick<TracedCurve, 'points' | 'error'>): number {
  const heights = curve.points.map((p) => Math.abs(p.y)).sort((a, b) => a - b);
  const upper = heights[Math.floor((2 * heights.length) / 3)] ?? 0;
  return upper > 0 ? (100 * curve.error) / upper : 100;
}

const figure = (value: number): string => String(Number(value.toPrecision(6)));

/**
 * A curve of a picture as a file that every reader of tables takes: lines above it that say what it is and how well it could
 * be read, then engine speed and the figure in its axis's unit, at even steps.
 */
export function pictureRunCsv(curve: Pick<TracedCurve, 'points' | 'error' | 'gaps'>, what: PictureCurve): string {
  const place = what.at === 'unknown' ? '' : { wheels: 'Wheel ', hub: 'Hub ', crank: 'Engine ' }[what.at];
  const name = place === '' ? what.quantity : what.quantity.toLowerCase();
  const header = `${place}${capital(name)}`.replace(/ (P|T)/, (m) => m.toLowerCase());
  const inGap = (x: number): boolean => curve.gaps.some(([a, b]) => x > a && x < b);
  const rows = atSteps(curve.points, PICTURE_STEP_rpm).filter((p: Point) => !inGap(p.x));
  return [
    `From a picture: ${what.picture.replace(/[\r\n]/g, ' ')}`,
    `Reading error: ${readingError_pct(curve).toFixed(3)} %`,
    ...(what.at === 'unknown' ? [] : [`Measured at: ${what.at}`]),
    ...(what.carried === 'unknown' ? [] : [`Correction: ${what.carried}`]),
    '',
    `Engine speed (rpm)\t${header} (${what.unit})`,
    ...rows.map((p) => `${figure(p.x)}\t${figure(p.y)}`),
    '',
  ].join('\n');
}
