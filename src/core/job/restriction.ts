import { peakGain, peakIndex, peakOf } from '../numbers/peak';
import { solveCandidate, type SideResult } from '../engine/induction';
import { isFailure, type Failure } from '../failure';
import { benchFlow, benchMoveToDepression } from '../flow/bench';
import { compilePath, FIGURE, FIGURES, facingAreas, pathOfRows, ROW_KIND, type CompiledPath } from '../flow/compile';
import { BENCH_DENSITY_kgpm3, BENCH_TEMPERATURE_K } from '../flow/constants';
import type { Ladder } from '../flow/ladder';
import { pipeLoss } from '../flow/losses';
import type { PathPart } from '../flow/path';
import { beforeLadder, sideLadder, type JobModel, type ModelSide } from './model';
import { INCH_OF_WATER_Pa } from '../units/units';

/** One part of the intake as a restriction, with a throttle on. */
export interface Restriction {
  /** Index in the job's parts. */
  readonly part: number;
  readonly name: string;
  /** The part's own loss and that of its junction onwards, Pa, at the rpm of peak power. */
  readonly loss_Pa: number;
  /** Peak power, %, that taking its loss away would bring, and that peak, W. */
  readonly gain_pct: number;
  readonly freedPeak_W: number;
}

/** The path with one part and the junction after it taken away: they cost nothing, and hold nothing back. */
function without(compiled: CompiledPath, part: number): CompiledPath {
  const freed = pathOfRows(compiled.rows, compiled.exitArea_m2, compiled.exitPulsation, compiled.exitEventShare);
  compiled.rows.forEach((row, i) => {
    if (row.part === part) freed.figures[i * FIGURES + FIGURE.kind] = ROW_KIND.none;
  });
  return freed;
}

const lossOf = (ladder: Ladder | Failure | null, part: number): number =>
  ladder === null || isFailure(ladder) ? 0 : ladder.dp_Pa.reduce((sum, dp, i) => (ladder.part[i] === part ? sum + dp : sum), 0);

/**
 * What stands in the way once a side is on: every part but the throttle and its opening, by what taking its loss away
 * would bring at peak power, the largest first. Each is tried alone, so the gains do not add up exactly.
 */
export function nextRestrictions(model: JobModel, side: ModelSide): Restriction[] {
  const { solved } = side;
  if (isFailure(solved)) return [];
  const at = peakIndex(solved.power_W);
  const throttle = side.path.parts.findIndex((p) => p.type === 'throttle');
  /** A part that cannot be taken away (the rest then chokes) brings nothing. */
  const worth = (freed: SideResult | Failure): Pick<Restriction, 'gain_pct' | 'freedPeak_W'> => {
    const power_W = isFailure(freed) ? solved.power_W : freed.power_W;
    return { gain_pct: peakGain(power_W, solved.power_W), freedPeak_W: peakOf(power_W) };
  };
  const own = sideLadder(model, side, at);
  const ahead = beforeLadder(model, side, at);
  const inPath = side.path.parts.flatMap((p, i): Restriction[] => {
    if (i === throttle || i === throttle + 1) return [];
    const gain = worth(solveCandidate(model.reference, without(side.compiled, i)));
    return [{ part: i + model.offset, name: p.name ?? p.type, loss_Pa: lossOf(own, i), ...gain }];
  });
  const { before } = model;
  const inBefore = (before?.path.parts ?? []).map((p, i): Restriction => {
    const gain = worth(solveCandidate(model.reference, side.compiled, without(before!.compiled, i)));
    return { part: i, name: p.name ?? p.type, loss_Pa: lossOf(ahead, i), ...gain };
  });
  return [...inBefore, ...inPath].sort((a, b) => b.gain_pct - a.gain_pct);
}

/** Depression, Pa, at which the parts of a chain are set side by side: 28 inH₂O. */
export const CHAIN_DEPRESSION_Pa = 28 * INCH_OF_WATER_Pa;
/** Entry a part of the chain is taken to have on the bench: a radius plate. */
const RADIUS_PLATE_K = 0.04;

export interface ChainLink {
  readonly part: number;
  readonly name: string;
  readonly type: PathPart['type'];
  /** Flow, m³/s of bench air, that it would show alone at the chain's depression; null: it cannot be said. */
  readonly flow_m3ps: number | null;
  /** What the figure comes from: a reading of the part's own, or its shape; null: nothing is known. */
  readonly basis:
    | { readonly from: 'reading'; readonly flow_m3ps: number; readonly depression_Pa: number }
    | { readonly from: 'shape'; readonly K: number; readonly entryK: number; readonly net_m2: number; readonly gross_m2: number }
    | null;
  /** It passes less than the throttle it stands ahead of. */
  readonly short: boolean;
}

/** Speed, m/s, at which a pipe's friction is read for the chain: about that of 28 inH₂O. */
const CHAIN_SPEED_mps = 90;

function pipeK(part: Extract<PathPart, { type: 'pipe' }>): number | null {
  const flow = (Math.PI / 4) * part.bore_m ** 2 * CHAIN_SPEED_mps * BENCH_DENSITY_kgpm3;
  const loss = pipeLoss(part, flow, BENCH_TEMPERATURE_K);
  return isFailure(loss) ? null : loss.K;
}

function basisOf(part: PathPart): ChainLink['basis'] {
  if (part.type === 'filter')
    return { from: 'reading', flow_m3ps: part.ratedFlow_m3ps, depression_Pa: part.ratedLoss_Pa * (part.loading ?? 1) };
  if (part.benchFlow_m3ps !== undefined && part.benchDepression_Pa !== undefined)
    return { from: 'reading', flow_m3ps: part.benchFlow_m3ps, depression_Pa: part.benchDepression_Pa };
  const areas = facingAreas(part);
  const compiled = compilePath({ parts: [part] });
  if (areas === null || isFailure(compiled)) return null;
  const K = part.type === 'pipe' ? pipeK(part) : compiled.rows[0]!.K;
  // An open end's own coefficient is its entry.
  return K === null ? null : { from: 'shape', K, entryK: part.type === 'openEnd' ? 0 : RADIUS_PLATE_K, ...areas };
}

/** The flow a part would show alone. A filter's loss goes with the square of the flow; a bench figure moves as an ideal nozzle. */
function aloneFlow(part: PathPart, basis: ChainLink['basis']): number | null {
  if (basis === null) return null;
  if (basis.from === 'shape') {
    const flow = benchFlow(basis.K, basis.entryK, basis.net_m2, basis.gross_m2, CHAIN_DEPRESSION_Pa);
    return isFailure(flow) ? null : flow.flow_m3ps;
  }
  const moved = benchMoveToDepression(basis.flow_m3ps, basis.depression_Pa, CHAIN_DEPRESSION_Pa);
  if (isFailure(moved)) return null;
  return part.type === 'filter' ? moved.handRule_m3ps : moved.flow_m3ps;
}

/**
 * Every part of the path up to the throttle as a bench would see it alone, at one depression and with one entry: everything
 * ahead of the throttle must pass more than it does, or the throttle is not what is in the way.
 */
export function chainOf(parts: readonly PathPart[], offset = 0): ChainLink[] {
  const at = parts.findIndex((p) => p.type === 'throttle');
  const last = at < 0 ? parts.length : at + 1;
  const links = parts.slice(0, last).map((part, i) => {
    const basis = basisOf(part);
    return { part: i + offset, name: part.name ?? part.type, type: part.type, flow_m3ps: aloneFlow(part, basis), basis };
  });
  const throttle = links.find((l) => l.type === 'throttle')?.flow_m3ps ?? null;
  return links.map((l) => ({
    ...l,
    short: l.type !== 'throttle' && throttle !== null && l.flow_m3ps !== null && l.flow_m3ps < throttle,
  }));
}
