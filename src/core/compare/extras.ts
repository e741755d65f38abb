import { isFailure } from '../failure';
import { EXTRA_QUANTITIES, type ExtraQuantity } from '../runs/dyno-run';
import { gridRun, type GriddedCurve } from '../runs/grid';
import type { ReadyRun } from '../runs/order';
import { smoothOverRpm } from '../runs/smooth';
import type { SideComparison } from './sides';

export type ExtraKind = ExtraQuantity | 'depression';

const EVERY_KIND: readonly ExtraKind[] = [...EXTRA_QUANTITIES, 'depression'];

/** A channel beside power, each side the mean of the runs that have it, on the comparison's own grid. SI; throttle in %. */
export interface SideExtra {
  readonly kind: ExtraKind;
  readonly rpm: readonly number[];
  readonly a: readonly number[] | null;
  readonly b: readonly number[] | null;
  /** Mean over the range: a, b, and b − a where both sides have it. */
  readonly mean: { readonly a: number | null; readonly b: number | null; readonly difference: number | null };
  readonly runsA: number;
  readonly runsB: number;
}

/** The channel of one run over the comparison's grid; depression is the same sensor's key-on reading less what it shows now. */
function curve(ready: ReadyRun, kind: ExtraKind, fwhm_rpm: number): GriddedCurve | null {
  const keyOn = ready.stored.doc.keyOn_Pa;
  if (kind === 'depression' && keyOn === null) return null;
  const channel = ready.run.extra[kind === 'depression' ? 'manifold pressure' : kind];
  if (!channel) return null;
  const grid = gridRun(channel.rpm, smoothOverRpm(channel.rpm, channel.value, fwhm_rpm));
  if (isFailure(grid)) return null;
  return kind === 'depression' ? { rpm: grid.rpm, value: grid.value.map((v) => keyOn! - v) } : grid;
}

function side(runs: readonly ReadyRun[], kind: ExtraKind, rpm: readonly number[], fwhm_rpm: number): { mean: number[]; n: number } | null {
  const maps = runs.flatMap((r) => {
    const grid = curve(r, kind, fwhm_rpm);
    return grid ? [new Map(grid.rpm.map((n, i) => [n, grid.value[i]!]))] : [];
  });
  if (maps.length === 0) return null;
  const mean = rpm.map((n) => {
    const at = maps.flatMap((m) => m.get(n) ?? []);
    return at.length === 0 ? NaN : at.reduce((s, v) => s + v, 0) / at.length;
  });
  return { mean, n: maps.length };
}

const average = (values: readonly number[]): number | null => {
  const known = values.filter(Number.isFinite);
  return known.length === 0 ? null : known.reduce((s, v) => s + v, 0) / known.length;
};

/**
 * What the other channels did on both sides over the comparison's engine speeds. A wide-open manifold reading below 100 kPa
 * is no restriction by itself, so a depression is only given against the same sensor's key-on reading. Testing basis §1.
 * `kinds`: those asked for; all of them where nothing is said.
 */
export function compareExtras(
  a: readonly ReadyRun[],
  b: readonly ReadyRun[],
  comparison: SideComparison,
  kinds: readonly ExtraKind[] = EVERY_KIND,
): SideExtra[] {
  const { grid_rpm: rpm, fwhm_rpm } = comparison;
  return kinds.flatMap((kind): SideExtra[] => {
    const sa = side(a, kind, rpm, fwhm_rpm);
    const sb = side(b, kind, rpm, fwhm_rpm);
    if (!sa && !sb) return [];
    const ma = sa && average(sa.mean);
    const mb = sb && average(sb.mean);
    const both = sa && sb ? average(sa.mean.map((v, i) => sb.mean[i]! - v)) : null;
    const mean = { a: ma, b: mb, difference: both };
    return [{ kind, rpm, a: sa?.mean ?? null, b: sb?.mean ?? null, mean, runsA: sa?.n ?? 0, runsB: sb?.n ?? 0 }];
  });
}
