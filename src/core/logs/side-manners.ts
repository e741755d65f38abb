import type { LogLook } from './compare-logs';

/** Idle and the answer to the throttle over all the logs of one side; null where none of them says. */
export interface SideManners {
  readonly logs: number;
  readonly idle_rpm: number | null;
  readonly spread_rpm: number | null;
  readonly hunting_s: number | null;
  readonly huntingBy_rpm: number | null;
  /** Stabs of the throttle that were found. */
  readonly steps: number;
  readonly air_s: number | null;
  readonly acceleration_s: number | null;
}

const mean = (list: readonly (number | null | undefined)[]): number | null => {
  const known = list.filter((v): v is number => v !== null && v !== undefined);
  return known.length === 0 ? null : known.reduce((a, b) => a + b, 0) / known.length;
};

/** Means over the looks at one side's logs. */
export function sideManners(looks: readonly Pick<LogLook, 'idle' | 'tipIn'>[]): SideManners {
  return {
    logs: looks.length,
    idle_rpm: mean(looks.map((l) => l.idle?.mean_rpm)),
    spread_rpm: mean(looks.map((l) => l.idle?.spread_rpm)),
    hunting_s: mean(looks.map((l) => l.idle?.hunting?.period_s)),
    huntingBy_rpm: mean(looks.map((l) => l.idle?.hunting?.amplitude_rpm)),
    steps: looks.reduce((n, l) => n + (l.tipIn?.count ?? 0), 0),
    air_s: mean(looks.map((l) => l.tipIn?.air_s)),
    acceleration_s: mean(looks.map((l) => l.tipIn?.acceleration_s)),
  };
}

/** Steps of the throttle closer than this cannot be told apart by hand or by log, s; idle spreads closer than this neither, rpm. */
export const FELT = { air_s: 0.02, idle_rpm: 5 } as const;
