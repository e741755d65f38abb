import type { Quantity } from '../documents/run';
import type { LogLook } from './compare-logs';

/** Idle and the answer to the throttle over all the logs of one side; null where none of them says. */
export interface SideManners {
  readonly logs: number;
  readonly idle_rpm: number | null;
  readonly spread_rpm: number | null;
  readonly spreadError_rpm: number | null;
  readonly hunting_s: number | null;
  readonly huntingBy_rpm: number | null;
  /** Stabs of the throttle that were found. */
  readonly steps: number;
  readonly air_s: number | null;
  readonly airError_s: number | null;
  /** What tells the air, one or several channels. */
  readonly airBy: readonly Quantity[];
  readonly acceleration_s: number | null;
}

const mean = (list: readonly (number | null | undefined)[]): number | null => {
  const known = list.filter((v): v is number => v !== null && v !== undefined);
  return known.length === 0 ? null : known.reduce((a, b) => a + b, 0) / known.length;
};

/** Standard error of a mean of figures with errors of their own. */
const meanError = (list: readonly (number | null | undefined)[]): number | null => {
  const known = list.filter((v): v is number => v !== null && v !== undefined);
  return known.length === 0 ? null : Math.sqrt(known.reduce((s, e) => s + e * e, 0)) / known.length;
};

/** Means over the looks at one side's logs. */
export function sideManners(looks: readonly Pick<LogLook, 'idle' | 'tipIn'>[]): SideManners {
  return {
    logs: looks.length,
    idle_rpm: mean(looks.map((l) => l.idle?.mean_rpm)),
    spread_rpm: mean(looks.map((l) => l.idle?.spread_rpm)),
    spreadError_rpm: meanError(looks.map((l) => l.idle?.spreadError_rpm)),
    hunting_s: mean(looks.map((l) => l.idle?.hunting?.period_s)),
    huntingBy_rpm: mean(looks.map((l) => l.idle?.hunting?.amplitude_rpm)),
    steps: looks.reduce((n, l) => n + (l.tipIn?.count ?? 0), 0),
    air_s: mean(looks.map((l) => l.tipIn?.air_s)),
    airError_s: meanError(looks.map((l) => l.tipIn?.airError_s)),
    airBy: [...new Set(looks.flatMap((l) => l.tipIn?.airBy ?? []))],
    acceleration_s: mean(looks.map((l) => l.tipIn?.acceleration_s)),
  };
}

/** Steps of the throttle closer than this cannot be told apart by hand or by log, s; idle spreads closer than this neither, rpm. */
const FELT = { air_s: 0.02, idle_rpm: 5 } as const;

/** What two sides' manners differ by: a figure, "same" where nobody would feel it, "unclear" where these logs do not tell; null: not logged. */
export type MannersDifference = number | 'same' | 'unclear' | null;

/** A difference smaller than this many of its standard errors may be chance. */
const TOLD_FROM = 2;

function apart(was: number | null, wasError: number | null, is: number | null, isError: number | null, felt: number): MannersDifference {
  if (was === null || is === null) return null;
  const chance = TOLD_FROM * Math.hypot(wasError ?? 0, isError ?? 0);
  const difference = is - was;
  if (Math.abs(difference) >= felt) return Math.abs(difference) >= chance ? difference : 'unclear';
  // No difference is told only where one that is felt would have been seen.
  return chance <= felt ? 'same' : 'unclear';
}

/** Whether one channel tells the air on both sides. A boost gauge and a manifold sensor are of one kind. */
export function airToldAlike(stock: SideManners, other: SideManners): boolean {
  const kinds = [...stock.airBy, ...other.airBy].map((q) => (q === 'air mass flow' ? 'flow' : 'pressure'));
  return new Set(kinds).size <= 1;
}

/** Delay of the air behind the throttle, s, and the idle's spread, rpm: the new side's less stock's, as far as the logs tell. */
export function mannersApart(stock: SideManners, other: SideManners): { air_s: MannersDifference; spread_rpm: MannersDifference } {
  const air = apart(stock.air_s, stock.airError_s, other.air_s, other.airError_s, FELT.air_s);
  return {
    air_s: air !== null && !airToldAlike(stock, other) ? 'unclear' : air,
    spread_rpm: apart(stock.spread_rpm, stock.spreadError_rpm, other.spread_rpm, other.spreadError_rpm, FELT.idle_rpm),
  };
}
