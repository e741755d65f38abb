import { airCrossCheck, type AirCrossCheck } from './air-check';
import { idleQuality, type IdleQuality } from './idle';
import { keyOnReading } from './key-on';
import { lagAgainst, type Lag } from './lag';
import { pedalMap, type PedalMap } from './pedal';
import { findPulls, type FoundPull } from './pulls';
import { tipIns, tipInSummary, type TipInSummary } from './tip-in';
import { cutTrace, traceAt, type Trace } from './trace';
import { crossingTime, medianInterval, valueAtTime, type ValueAt } from './value-at';
import { demandByCylinderAir } from '../engine/demand';
import { linearTable } from '../numbers/curve';
import { meanOf } from '../numbers/moments';
import type { GearboxDoc } from '../documents/job';
import type { Quantity } from '../documents/run';
import { isFailure, type Failure } from '../failure';

/** A log's mapped channels at their own samples. SI; throttle and pedal in percent. */
export type LogTraces = Partial<Record<Quantity, Trace>>;

export interface LogLook {
  readonly pulls: readonly FoundPull[];
  readonly idle: IdleQuality | null;
  readonly tipIn: TipInSummary | null;
  readonly pedal: PedalMap | null;
  readonly keyOn_Pa: number | null;
  /** Channel against the air that engine speed implies, over the longest pull. */
  readonly lags: readonly { readonly quantity: Quantity; readonly lag: Lag }[];
  readonly air: AirCrossCheck | null;
  /** Each way of logging air over what the model's engine needs, mean over the longest pull; null where not logged. */
  readonly againstModel: { readonly meter: number | null; readonly cylinder: number | null } | null;
  /** When the first of its samples was taken and when the last, s; null: it has none. */
  readonly span_s: readonly [from: number, to: number] | null;
  /** Usual interval of each channel's own samples, s. */
  readonly intervals: readonly { readonly quantity: Quantity; readonly interval_s: number }[];
}

const LAGGED: readonly Quantity[] = ['manifold pressure', 'boost', 'air mass flow', 'cylinder air', 'speed'];
/** What tells the air's answer to the throttle, the first that is logged. */
const AIR_BY: readonly Quantity[] = ['manifold pressure', 'boost', 'air mass flow'];
/** Idle is looked for below this many times the car's own idle speed. */
const IDLE_REACH = 1.8;

/** What of the car a log is looked at with. */
export interface LoggedCar {
  readonly cylinders: number;
  readonly idle_rpm: number;
  readonly gearbox: GearboxDoc;
  /** What the model's engine needs at wide open throttle; left out where the car cannot be solved. */
  readonly demand?: { readonly rpm: readonly number[]; readonly massFlow_kgps: readonly number[] } | null | undefined;
}

/** Everything a log says by itself: its pulls, its idle, how it answers the throttle, and how far its channels can be believed. */
export function lookAtLog(traces: LogTraces, car: LoggedCar): LogLook {
  const { rpm, throttle = null, speed = null } = traces;
  const airBy = AIR_BY.find((q) => traces[q]) ?? null;
  const air = airBy && traces[airBy]!;
  const pulls = rpm ? findPulls({ rpm, throttle, speed, gearbox: car.gearbox }) : [];
  const longest = pulls.reduce<FoundPull | null>((a, p) => (a === null || p.to_rpm - p.from_rpm > a.to_rpm - a.from_rpm ? p : a), null);
  return {
    pulls,
    idle: rpm ? idleQuality({ rpm, throttle, speed, highest_rpm: IDLE_REACH * car.idle_rpm }) : null,
    tipIn: throttle ? tipInSummary(tipIns({ throttle, air, motion: speed ?? rpm ?? null }), sampled([throttle, air]), airBy) : null,
    pedal: traces.pedal && throttle ? pedalMap(traces.pedal, throttle) : null,
    keyOn_Pa: rpm && traces['manifold pressure'] ? keyOnReading(traces['manifold pressure'], rpm) : null,
    lags: rpm && longest ? lagsOver(traces, rpm, longest) : [],
    air: rpm && longest ? airOver(traces, rpm, longest, car.cylinders) : null,
    againstModel: rpm && longest && car.demand ? modelOver(traces, rpm, longest, car.cylinders, car.demand) : null,
    span_s: spanOf(Object.values(traces)),
    intervals: (Object.entries(traces) as [Quantity, Trace][]).map(([quantity, t]) => ({ quantity, interval_s: medianInterval(t.time_s) })),
  };
}

const sampled = (traces: readonly (Trace | null)[]): number[] => traces.flatMap((t) => (t ? [medianInterval(t.time_s)] : []));

function spanOf(traces: readonly Trace[]): LogLook['span_s'] {
  const times = traces.map((t) => t.time_s).filter((t) => t.length > 0);
  return times.length === 0 ? null : [Math.min(...times.map((t) => t[0]!)), Math.max(...times.map((t) => t.at(-1)!))];
}

function lagsOver(traces: LogTraces, rpm: Trace, pull: FoundPull): LogLook['lags'] {
  const wide = (t: Trace): Trace => cutTrace(t, pull.from_s - 1, pull.to_s + 1);
  return LAGGED.flatMap((quantity) => {
    const trace = traces[quantity];
    const lag = trace ? lagAgainst(wide(rpm), wide(trace)) : null;
    return lag ? [{ quantity, lag }] : [];
  });
}

/** Mean ratio of each logged air to the demand at the same engine speeds, where the pull is inside the model's range. */
function modelOver(
  traces: LogTraces,
  rpm: Trace,
  pull: FoundPull,
  cylinders: number,
  demand: NonNullable<LoggedCar['demand']>,
): LogLook['againstModel'] {
  const asked = (n: number): number =>
    n < demand.rpm[0]! || n > demand.rpm.at(-1)! ? NaN : linearTable(demand.rpm, demand.massFlow_kgps, n);
  const over = (channel: Trace | undefined, flow: (value: number, n: number) => number): number | null => {
    if (!channel) return null;
    const cut = cutTrace(channel, pull.from_s, pull.to_s);
    const ratios = Array.from(cut.value, (v, i) => {
      const n = traceAt(rpm, cut.time_s[i]!);
      return flow(v, n) / asked(n);
    }).filter(Number.isFinite);
    return ratios.length < 3 ? null : meanOf(ratios);
  };
  return {
    meter: over(traces['air mass flow'], (v) => v),
    cylinder: over(traces['cylinder air'], (v, n) => demandByCylinderAir(v, cylinders, n)),
  };
}

/** The two ways of logging air against one another over a pull, at the meter's own samples. */
function airOver(traces: LogTraces, rpm: Trace, pull: FoundPull, cylinders: number): AirCrossCheck | null {
  const meter = traces['air mass flow'];
  const cylinder = traces['cylinder air'];
  if (!meter || !cylinder) return null;
  const at = cutTrace(meter, pull.from_s, pull.to_s);
  if (at.time_s.length < 3) return null;
  return airCrossCheck({
    cylinders,
    rpm: at.time_s.map((t) => traceAt(rpm, t)),
    cylinderAir_kg: at.time_s.map((t) => traceAt(cylinder, t)),
    massFlow_kgps: at.value,
  });
}

export const LOG_BASES = ['time', 'rpm', 'distance'] as const;
export type LogBase = (typeof LOG_BASES)[number];

/** A channel of one pull on a base that several logs share: engine speed, seconds, or metres since the pull began. */
export function alignedPull(
  traces: LogTraces,
  quantity: Quantity,
  pull: Pick<FoundPull, 'from_s' | 'to_s'>,
  base: LogBase,
): { x: Float64Array; y: Float64Array } | null {
  const channel = traces[quantity];
  if (!channel) return null;
  const cut = cutTrace(channel, pull.from_s, pull.to_s);
  if (base === 'time') return { x: cut.time_s.map((t) => t - pull.from_s), y: cut.value };
  const against = base === 'rpm' ? traces.rpm : traces.speed;
  if (!against) return null;
  if (base === 'rpm') return { x: cut.time_s.map((t) => traceAt(against, t)), y: cut.value };
  const driven = cutTrace(against, pull.from_s, pull.to_s);
  const distance = new Float64Array(driven.time_s.length);
  for (let i = 1; i < distance.length; i += 1)
    distance[i] = distance[i - 1]! + 0.5 * (driven.value[i]! + driven.value[i - 1]!) * (driven.time_s[i]! - driven.time_s[i - 1]!);
  return { x: cut.time_s.map((t) => traceAt({ time_s: driven.time_s, value: distance }, t)), y: cut.value };
}

/** Every channel's value when a pull passes one engine speed, with the mark of those that were held. */
export function valuesAtRpm(
  traces: LogTraces,
  pull: Pick<FoundPull, 'from_s' | 'to_s'>,
  rpm: number,
  intervals: LogLook['intervals'],
): { quantity: Quantity; at: ValueAt | Failure }[] {
  if (!traces.rpm) return [];
  const cut = cutTrace(traces.rpm, pull.from_s, pull.to_s);
  const at_s = crossingTime(cut.time_s, cut.value, rpm);
  return (Object.entries(traces) as [Quantity, Trace][])
    .filter(([quantity]) => quantity !== 'rpm' && quantity !== 'time' && quantity !== 'other')
    .map(([quantity, t]) => ({
      quantity,
      at: isFailure(at_s) ? at_s : valueAtTime(t.time_s, t.value, at_s, intervals.find((i) => i.quantity === quantity)?.interval_s),
    }));
}
