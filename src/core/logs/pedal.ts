import { medianOf } from '../numbers/moments';
import { traceAt, type Trace } from './trace';

export interface PedalMap {
  /** Middle of each tenth of the pedal, %, and the median throttle there; NaN where the pedal never was. */
  readonly pedal_pct: number[];
  readonly throttle_pct: number[];
  /** Share of the time with the pedal down that the throttle was held back. */
  readonly heldBack: number;
  readonly heldBackFrom_s: number | null;
}

/** Pedal down from here; throttle under this beside it is held back by the engine's own computer. */
const DOWN_pct = 95;
const HELD_pct = 90;
const SETTLE_s = 0.3;

/** What the throttle did for each position of the pedal, and whether it was closed against a pedal that was down. */
export function pedalMap(pedal: Trace, throttle: Trace): PedalMap {
  const bins: number[][] = Array.from({ length: 10 }, () => []);
  let down = 0;
  let held = 0;
  let heldFrom: number | null = null;
  let downSince = NaN;
  for (let i = 0; i < pedal.time_s.length; i += 1) {
    const t = pedal.time_s[i]!;
    const p = pedal.value[i]!;
    const open = traceAt(throttle, t);
    bins[Math.min(9, Math.max(0, Math.floor(p / 10)))]!.push(open);
    if (p < DOWN_pct) {
      downSince = NaN;
      continue;
    }
    if (!(downSince === downSince)) downSince = t;
    if (t - downSince < SETTLE_s) continue;
    down += 1;
    if (open < HELD_pct) {
      held += 1;
      heldFrom ??= t;
    }
  }
  return {
    pedal_pct: bins.map((_, i) => 10 * i + 5),
    throttle_pct: bins.map((b) => (b.length === 0 ? NaN : medianOf(b))),
    heldBack: down === 0 ? 0 : held / down,
    heldBackFrom_s: heldFrom,
  };
}
