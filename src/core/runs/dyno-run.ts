import { powerOf } from '../engine/power';
import { failure, isFailure, type Failure } from '../failure';
import type { ChannelMap, Quantity, RunDoc } from '../documents/run';
import type { CorrectionMethod } from '../documents/kinds';
import { airOf } from './air';
import { correctionFactor } from './correction';
import { channelSI, isSettled } from '../read/guess';
import { runSweep } from './sweep';

export interface RunChannel {
  readonly map: ChannelMap;
  /** As in the file, NaN where there was nothing. */
  readonly values: Float64Array;
}

/** What a dyno file may say beside power, on the same engine speed. SI; throttle in percent. */
export const EXTRA_QUANTITIES = ['manifold pressure', 'boost', 'inlet air', 'air mass flow', 'lambda', 'afr', 'throttle'] as const;
export type ExtraQuantity = (typeof EXTRA_QUANTITIES)[number];

/** Channels a dyno comparison reads, and no others. */
export const DYNO_QUANTITIES: readonly Quantity[] = ['rpm', 'power', 'torque', 'coolant', ...EXTRA_QUANTITIES];

/** A dyno run made ready to compare: one sweep, SI, in the asked-for correction where that can be had. */
export interface DynoRun {
  readonly rpm: Float64Array;
  readonly power_W: Float64Array;
  /** Other channels over the same sweep, at the samples that have them. */
  readonly extra: Partial<Record<ExtraQuantity, { readonly rpm: Float64Array; readonly value: Float64Array }>>;
  /** What the figures now carry: the asked-for correction, or what the file had where it could not be changed. */
  readonly correction: RunDoc['carried'];
  /** Factor the file's figures were multiplied by to get here. */
  readonly factor: number;
  /** Samples of the file, and how many of them the sweep kept. */
  readonly samples: number;
  readonly swept: number;
  readonly inletAirStart_K: number | null;
  readonly inletAirPeak_K: number | null;
  readonly coolantStart_K: number | null;
  /** Samples were averaged in blocks of this many: 1 leaves them as they were. */
  readonly block: number;
}

/** A sweep has no more detail than this: beyond it neighbouring samples are averaged, and the run says so. */
export const SWEEP_SAMPLES_KEPT = 5000;

const pick = (channels: readonly RunChannel[], quantity: Quantity): Float64Array | null => {
  const channel = channels.find((c) => c.map.quantity === quantity);
  return channel && isSettled(channel.map) ? channelSI(channel.values, channel.map) : null;
};

/**
 * A run's sweep from its mapped channels: engine speed and power (or torque), samples without both left out, the longest
 * rise kept, the file's own correction undone where known and `to` applied. `bad_input` says which channel is missing, or is
 * in a unit that nobody has said.
 */
export function dynoRun(
  channels: readonly RunChannel[],
  doc: Pick<RunDoc, 'carried' | 'weather' | 'coolantStart_K'> & Partial<Pick<RunDoc, 'weatherGuessed'>>,
  to: CorrectionMethod,
): DynoRun | Failure {
  const rpm = pick(channels, 'rpm');
  const power = pick(channels, 'power');
  const torque = pick(channels, 'torque');
  const unsettled = (quantity: Quantity): boolean => channels.some((c) => c.map.quantity === quantity && !isSettled(c.map));
  if (!rpm) return failure('bad_input', { reason: unsettled('rpm') ? 'rpm_unit_unknown' : 'no_rpm_channel' });
  // A power in an unknown unit is not replaced by something else of the file without a word: it is asked for.
  if (!power && unsettled('power')) return failure('bad_input', { reason: 'power_unit_unknown' });
  if (!power && !torque && unsettled('torque')) return failure('bad_input', { reason: 'torque_unit_unknown' });
  if (!power && !torque) return failure('bad_input', { reason: 'no_power_channel' });
  const throttle = pick(channels, 'throttle');
  const kept: number[] = [];
  for (let i = 0; i < rpm.length; i += 1) {
    if (Number.isFinite(rpm[i]) && Number.isFinite((power ?? torque)![i])) kept.push(i);
  }
  const x = Float64Array.from(kept, (i) => rpm[i]!);
  const sweep = runSweep(x, throttle ? Float64Array.from(kept, (i) => throttle[i]!) : undefined);
  if (isFailure(sweep)) return sweep;
  const indices = kept.slice(sweep.first, sweep.last + 1);
  const correction = correctionOf(doc, to);
  const watts = (i: number): number => (power ? power[i]! : powerOf(torque![i]!, rpm[i]!)) * correction.factor;
  const block = Math.ceil(indices.length / SWEEP_SAMPLES_KEPT);
  return {
    rpm: blocks(indices, (i) => rpm[i]!, block),
    power_W: blocks(indices, watts, block),
    extra: extraChannels(channels, rpm, indices[0]!, indices.at(-1)!),
    correction: correction.carries,
    factor: correction.factor,
    samples: rpm.length,
    swept: indices.length,
    block,
    ...temperatures(pick(channels, 'inlet air'), indices),
    coolantStart_K: doc.coolantStart_K ?? firstFinite(pick(channels, 'coolant'), indices),
  };
}

function blocks(indices: readonly number[], value: (i: number) => number, size: number): Float64Array {
  const out = new Float64Array(Math.ceil(indices.length / size));
  for (let b = 0; b < out.length; b += 1) {
    const part = indices.slice(b * size, (b + 1) * size);
    out[b] = part.reduce((s, i) => s + value(i), 0) / part.length;
  }
  return out;
}

/** The rows of a sweep in which a channel has a figure. */
function extraChannels(channels: readonly RunChannel[], rpm: Float64Array, first: number, last: number): DynoRun['extra'] {
  const extra: { -readonly [Q in ExtraQuantity]?: { rpm: Float64Array; value: Float64Array } } = {};
  for (const quantity of EXTRA_QUANTITIES) {
    const values = pick(channels, quantity);
    if (!values) continue;
    const at: number[] = [];
    for (let i = first; i <= last; i += 1) if (Number.isFinite(values[i]) && Number.isFinite(rpm[i])) at.push(i);
    if (at.length < 2) continue;
    const block = Math.ceil(at.length / SWEEP_SAMPLES_KEPT);
    extra[quantity] = { rpm: blocks(at, (i) => rpm[i]!, block), value: blocks(at, (i) => values[i]!, block) };
  }
  return extra;
}

/** What brings a run's figures to this correction, and what they carry then: what they had where that or the air is not known. */
export function correctionOf(
  doc: Parameters<typeof airOf>[0] & Pick<RunDoc, 'carried'>,
  to: CorrectionMethod,
): { factor: number; carries: RunDoc['carried'] } {
  if (doc.carried === to) return { factor: 1, carries: to };
  const air = airOf(doc);
  if (doc.carried === 'unknown' || !air) return { factor: 1, carries: doc.carried };
  const undo = correctionFactor(doc.carried, air);
  const apply = correctionFactor(to, air);
  if (isFailure(undo) || isFailure(apply)) return { factor: 1, carries: doc.carried };
  return { factor: apply.factor / undo.factor, carries: to };
}

function firstFinite(values: Float64Array | null, indices: readonly number[]): number | null {
  const at = values ? indices.find((i) => Number.isFinite(values[i])) : undefined;
  return at === undefined ? null : values![at]!;
}

function temperatures(
  inlet: Float64Array | null,
  indices: readonly number[],
): { inletAirStart_K: number | null; inletAirPeak_K: number | null } {
  const start = firstFinite(inlet, indices);
  if (start === null) return { inletAirStart_K: null, inletAirPeak_K: null };
  return { inletAirStart_K: start, inletAirPeak_K: indices.reduce((m, i) => Math.max(m, inlet![i] || -Infinity), start) };
}
