/** The exact cases of the unsteady inlet: tubes, pipes, bottles and volumes whose answers are closed forms. verification/waves-CALLS.md. */
import { junctionK } from '@/core/flow/losses';
import { Ducts } from '@/core/waves/ducts';
import { jointEnd, openAirEnd, volumeEnd, wallEnd } from '@/core/waves/ends';
import { C_P, C_V, GAMMA, nozzleFlow, R_GAS, soundSpeed } from '@/core/waves/gas';
import { openEnd, type Mouth } from '@/core/waves/mouth';
import { ductsOf, type Segment, type StandingLoss } from '@/core/waves/shape';

/** Cells of the reference cases. */
export const CELL_m = 0.012;
const COURANT = 0.8;
const STILL_WALLS = { roughness_m: 1.5e-6, wall_K: null, friction: false };
const straight = (length_m: number, bore_m: number): Segment => ({ length_m, inBore_m: bore_m, outBore_m: bore_m });

interface State {
  p_Pa: number;
  T_K: number;
  u_mps?: number;
}

/** Steps ducts to a time with ends that the caller solves. */
function carry(ducts: Ducts, time_s: number, solve: (dt: number, t: number) => void, each?: (t: number) => boolean | void): void {
  let t = 0;
  while (t < time_s - 1e-15) {
    const dt = Math.min(COURANT * ducts.longestStep(), time_s - t);
    ducts.prepare(dt);
    solve(dt, t);
    ducts.finish(dt);
    t += dt;
    if (each?.(t) === true) return;
  }
}

/** Linear between cell centres. */
function probe(values: Float64Array, dx: number, x: number): number {
  const at = Math.min(Math.max(x / dx - 0.5, 0), values.length - 1);
  const i = Math.min(Math.floor(at), values.length - 2);
  return values[i]! + (values[i + 1]! - values[i]!) * (at - i);
}

const walls = (ducts: Ducts): void => ducts.ends.forEach((e, i) => wallEnd(e, ducts.endArea_m2[i]!));

/** A tube of so many cells, 1 m² wide. */
const tube = (length_m: number, cells: number): Ducts =>
  new Ducts(ductsOf([straight(length_m, Math.sqrt(4 / Math.PI))], [], 0, STILL_WALLS, length_m / cells));

function shockTube(i: {
  length_m: number;
  diaphragm_m: number;
  left: State;
  right: State;
  time_s: number;
  cells: number;
  probe_m: number[];
  bins?: number;
  exactDensity_kgpm3?: number[];
}) {
  const ducts = tube(i.length_m, i.cells);
  const dx = i.length_m / i.cells;
  for (let k = 0; k < i.cells; k += 1) {
    const s = (k + 0.5) * dx < i.diaphragm_m ? i.left : i.right;
    ducts.setCell(k, s.p_Pa, s.T_K, s.u_mps ?? 0);
  }
  carry(ducts, i.time_s, () => walls(ducts));
  const density = (s: State): number => s.p_Pa / (R_GAS * s.T_K);
  let l1Density: number | undefined;
  if (i.bins && i.exactDensity_kgpm3) {
    const per = i.cells / i.bins;
    const off = i.exactDensity_kgpm3.map((want, b) => {
      let sum = 0;
      for (let k = 0; k < per; k += 1) sum += ducts.rho[b * per + k]!;
      return Math.abs(sum / per - want);
    });
    l1Density = off.reduce((a, b) => a + b, 0) / i.bins / Math.abs(density(i.left) - density(i.right));
  }
  return {
    pressure_Pa: i.probe_m.map((x) => probe(ducts.p, dx, x)),
    velocity_mps: i.probe_m.map((x) => probe(ducts.u, dx, x)),
    l1Density,
  };
}

function pulse(i: {
  length_m: number;
  p_Pa: number;
  T_K: number;
  amplitude_Pa: number;
  centre_m: number;
  halfWidth_m: number;
  time_s: number;
  cells: number;
  probe_m: number[];
}) {
  const ducts = tube(i.length_m, i.cells);
  const dx = i.length_m / i.cells;
  for (let k = 0; k < i.cells; k += 1) {
    const x = (k + 0.5) * dx - i.centre_m;
    const p = i.p_Pa + (Math.abs(x) < i.halfWidth_m ? i.amplitude_Pa * Math.cos((Math.PI * x) / (2 * i.halfWidth_m)) ** 2 : 0);
    const root = (p / i.p_Pa) ** ((GAMMA - 1) / (2 * GAMMA));
    const c0 = soundSpeed(i.T_K);
    ducts.setCell(k, p, i.T_K * root * root, (2 * (c0 * root - c0)) / (GAMMA - 1));
  }
  carry(ducts, i.time_s, () => walls(ducts));
  return { pressure_Pa: i.probe_m.map((x) => probe(ducts.p, dx, x)) };
}

/** Frequency by rising zero crossings, over at least six periods. */
function tone(ducts: Ducts, solve: (dt: number) => void, read: () => number): number {
  const crossings: number[] = [];
  let before: [number, number] | null = null;
  carry(ducts, 10, solve, (t) => {
    const v = read();
    if (before && before[1] < 0 && v >= 0) crossings.push(before[0] + ((t - before[0]) * -before[1]) / (v - before[1]));
    before = [t, v];
    return crossings.length > 7;
  });
  return (crossings.length - 1) / (crossings.at(-1)! - crossings[0]!);
}

const mouthOf = (kind: 'plain' | 'flanged' | 'trumpet', bore_m: number): Mouth =>
  kind === 'flanged' ? { kind } : { edgeRadius_m: kind === 'trumpet' ? 0.15 * bore_m : 0 };
const P0 = 101_325;

function organPipe(i: {
  length_m: number;
  bore_m: number;
  T_K: number;
  ends: 'wall-open' | 'open-open';
  mouth: 'plain' | 'flanged' | 'trumpet';
  amplitude_Pa?: number;
}) {
  const { endCorrection_m } = openEnd(i.bore_m, mouthOf(i.mouth, i.bore_m));
  const both = i.ends === 'open-open';
  const length = i.length_m + endCorrection_m * (both ? 2 : 1);
  const ducts = new Ducts(ductsOf([straight(length, i.bore_m)], [], 0, STILL_WALLS, CELL_m));
  const a = i.amplitude_Pa ?? 100;
  ducts.places(0).forEach((x, k) => {
    const p = P0 + a * (both ? Math.sin((Math.PI * x) / length) : Math.cos((Math.PI * x) / (2 * length)));
    ducts.setCell(k, p, i.T_K * (p / P0) ** ((GAMMA - 1) / GAMMA));
  });
  const [up, down] = [ducts.ends[0]!, ducts.ends[1]!];
  const area = ducts.endArea_m2[0]!;
  const solve = (): void => {
    if (both) openAirEnd(up, area, P0, i.T_K, 0);
    else wallEnd(up, area);
    openAirEnd(down, area, P0, i.T_K, 0);
  };
  return { frequency_Hz: tone(ducts, solve, () => (both ? up.massFlow : up.pressure - P0)) };
}

/** A rigid volume: mass, energy, and how both changed before. */
class Vessel {
  m: number;
  U: number;
  private dm = 0;
  private dU = 0;
  constructor(
    readonly V: number,
    p: number,
    T: number,
  ) {
    this.m = (p * V) / (R_GAS * T);
    this.U = this.m * C_V * T;
  }
  at(dt: number): { p: number; T: number } {
    const m = this.m + 0.5 * dt * this.dm;
    const U = this.U + 0.5 * dt * this.dU;
    return { p: ((GAMMA - 1) * U) / this.V, T: U / (m * C_V) };
  }
  take(dm: number, dU: number, dt: number): void {
    this.dm = dm;
    this.dU = dU;
    this.m += dm * dt;
    this.U += dU * dt;
  }
}

function bottle(i: {
  length_m: number;
  bore_m: number;
  volume_m3: number;
  T_K: number;
  mouth: 'plain' | 'flanged' | 'trumpet';
  amplitude_Pa?: number;
}) {
  const { endCorrection_m } = openEnd(i.bore_m, mouthOf(i.mouth, i.bore_m));
  const ducts = new Ducts(ductsOf([straight(i.length_m + endCorrection_m, i.bore_m)], [], 0, STILL_WALLS, CELL_m));
  ducts.fill(0, P0, i.T_K);
  const p = P0 + (i.amplitude_Pa ?? 100);
  const vessel = new Vessel(i.volume_m3, p, i.T_K * (p / P0) ** ((GAMMA - 1) / GAMMA));
  const area = ducts.endArea_m2[0]!;
  const solve = (dt: number): void => {
    const v = vessel.at(dt);
    volumeEnd(ducts.ends[0]!, area, v.p, v.T, area, area);
    vessel.take(ducts.ends[0]!.massFlow, ducts.ends[0]!.energyFlow, dt);
    openAirEnd(ducts.ends[1]!, area, P0, i.T_K, 0);
  };
  return { frequency_Hz: tone(ducts, solve, () => vessel.at(0).p - P0) };
}

/** Steps of the blow-down: a step is so small a share of what is in the volume. */
const BLOW_STEPS = 4000;

function blowDown(i: { volume_m3: number; p_Pa: number; T_K: number; area_m2: number; to_Pa: number; to_K: number; time_s: number[] }) {
  const vessel = new Vessel(i.volume_m3, i.p_Pa, i.T_K);
  const out = { pressure_Pa: [] as number[], temperature_K: [] as number[] };
  let t = 0;
  for (const end of i.time_s) {
    const dt = (end - t) / BLOW_STEPS;
    for (let k = 0; k < BLOW_STEPS; k += 1) {
      const { p, T } = vessel.at(dt);
      const flow = p >= i.to_Pa ? -nozzleFlow(i.area_m2, p, T, i.to_Pa) : nozzleFlow(i.area_m2, i.to_Pa, i.to_K, p);
      vessel.take(flow, flow * C_P * (flow < 0 ? T : i.to_K), dt);
    }
    t = end;
    const now = vessel.at(0);
    out.pressure_Pa.push(now.p);
    out.temperature_K.push(now.T);
  }
  return out;
}

type PipeEnd =
  { kind: 'open'; p_Pa: number; T_K?: number; K?: number } | { kind: 'volume'; p_Pa: number; T_K?: number; effectiveArea_m2?: number };

/** Every joint inside a line of ducts. */
function joinAll(ducts: Ducts, count: number): void {
  for (let d = 0; d < count - 1; d += 1) {
    const [a, b] = [ducts.endArea_m2[2 * d + 1]!, ducts.endArea_m2[2 * d + 2]!];
    const [small, large] = [Math.min(a, b), Math.max(a, b)];
    jointEnd(ducts.ends[2 * d + 1]!, a, ducts.ends[2 * d + 2]!, b, junctionK(small, large), junctionK(large, small));
  }
}

function steadyPipe(i: {
  upstream: PipeEnd;
  downstream: PipeEnd;
  segments: Segment[];
  friction?: boolean;
  roughness_m?: number;
  wall_K?: number | null;
  losses?: StandingLoss[];
  station_m: number[];
  cell_m?: number;
}) {
  const cut = ductsOf(
    i.segments,
    i.losses ?? [],
    0,
    { roughness_m: i.roughness_m ?? 1.5e-6, wall_K: i.wall_K ?? null, friction: i.friction ?? true },
    i.cell_m ?? CELL_m,
  );
  const ducts = new Ducts(cut);
  const T = i.upstream.T_K ?? 295;
  for (let d = 0; d < cut.length; d += 1) ducts.fill(d, i.downstream.p_Pa, T);
  const last = 2 * cut.length - 1;
  const solveEnd = (index: number, end: PipeEnd): void => {
    const area = ducts.endArea_m2[index]!;
    if (end.kind === 'open') openAirEnd(ducts.ends[index]!, area, end.p_Pa, end.T_K ?? T, end.K ?? 0);
    else volumeEnd(ducts.ends[index]!, area, end.p_Pa, end.T_K ?? T, end.effectiveArea_m2 ?? area, end.effectiveArea_m2 ?? area);
  };
  let held = 0;
  let before = NaN;
  let checked = 0;
  carry(
    ducts,
    5,
    () => {
      solveEnd(0, i.upstream);
      solveEnd(last, i.downstream);
      joinAll(ducts, cut.length);
    },
    (t) => {
      if (t < checked) return false;
      checked = t + 2e-3;
      const flow = ducts.ends[last]!.massFlow;
      held =
        Math.abs(flow - before) < 1e-7 * Math.abs(flow) && Math.abs(flow + ducts.ends[0]!.massFlow) < 1e-6 * Math.abs(flow) ? held + 1 : 0;
      before = flow;
      return held > 4;
    },
  );
  const stations = i.station_m.map((x) => {
    let from = 0;
    for (let d = 0; d < cut.length; d += 1) {
      const length = cut[d]!.cells * cut[d]!.dx_m;
      if (x <= from + length || d === cut.length - 1) {
        const of = (a: Float64Array): number => probe(a.subarray(ducts.first[d], ducts.first[d + 1]), cut[d]!.dx_m, x - from);
        return { p: of(ducts.p), rho: of(ducts.rho), u: of(ducts.u) };
      }
      from += length;
    }
    throw new Error('no such station');
  });
  return {
    massFlow_kgps: ducts.ends[last]!.massFlow,
    pressure_Pa: stations.map((s) => s.p),
    temperature_K: stations.map((s) => s.p / (s.rho * R_GAS)),
    mach: stations.map((s) => s.u / Math.sqrt((GAMMA * s.p) / s.rho)),
  };
}

function stillAir(i: { segments: Segment[]; p_Pa: number; T_K: number; time_s: number }) {
  const cut = ductsOf(i.segments, [], 0, { roughness_m: 1.5e-6, wall_K: null, friction: true }, CELL_m);
  const ducts = new Ducts(cut);
  cut.forEach((_, d) => ducts.fill(d, i.p_Pa, i.T_K));
  carry(ducts, i.time_s, () => {
    walls(ducts);
    joinAll(ducts, cut.length);
  });
  return {
    maxVelocity_mps: Math.max(...ducts.u.map(Math.abs)),
    maxPressureError_Pa: Math.max(...ducts.p.map((p) => Math.abs(p - i.p_Pa))),
  };
}

function closed(i: {
  segments: Segment[];
  left: { volume_m3: number; p_Pa: number; T_K: number; effectiveArea_m2: number };
  p_Pa: number;
  T_K: number;
  time_s: number;
}) {
  const cut = ductsOf(i.segments, [], 0, { roughness_m: 1.5e-6, wall_K: null, friction: true }, CELL_m);
  const ducts = new Ducts(cut);
  cut.forEach((_, d) => ducts.fill(d, i.p_Pa, i.T_K));
  const vessel = new Vessel(i.left.volume_m3, i.left.p_Pa, i.left.T_K);
  const mass = (): number => ducts.totalMass() + vessel.m;
  const energy = (): number => ducts.totalEnergy() + vessel.U;
  const [m0, U0] = [mass(), energy()];
  const last = 2 * cut.length - 1;
  carry(ducts, i.time_s, (dt) => {
    const v = vessel.at(dt);
    const end = ducts.ends[0]!;
    volumeEnd(end, ducts.endArea_m2[0]!, v.p, v.T, i.left.effectiveArea_m2, i.left.effectiveArea_m2);
    vessel.take(end.massFlow, end.energyFlow, dt);
    wallEnd(ducts.ends[last]!, ducts.endArea_m2[last]!);
    joinAll(ducts, cut.length);
  });
  return { massChange: Math.abs(mass() / m0 - 1), energyChange: Math.abs(energy() / U0 - 1) };
}

export const EXACT_WAVE_CALLS = {
  'waves.shockTube': shockTube,
  'waves.pulse': pulse,
  'waves.organPipe': organPipe,
  'waves.bottle': bottle,
  'waves.blowDown': blowDown,
  'waves.steadyPipe': steadyPipe,
  'waves.stillAir': stillAir,
  'waves.closed': closed,
} as const;
