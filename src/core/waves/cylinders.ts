import { volumeEnd, wallEnd, type EndState } from './ends';
import type { EngineFigures } from './figures';
import { C_P, C_V, GAMMA, nozzleFlow, R_GAS, soundSpeed } from './gas';
import { readTable, valveTable } from './input';
import type { LayOut } from './lay-out';
import { CYCLE_rad } from './valves';

// Taken out of Math once: these run millions of times.
const { abs, floor, min, round } = Math;

/** Share of a cylinder's gas that may leave it in a step at the speed of sound: beyond, its pressure swings from step to step. */
const CYLINDER_COURANT = 0.15;
/** Settled: each trapped mass within this of the cycle before. */
const SETTLED_MASS = 0.002;

/** A step of the crank: where it begins, its middle and its end, rad, and how long it takes, s. */
export interface CrankStep {
  crank: number;
  half: number;
  next: number;
  dt: number;
}

const mean = (values: Float64Array): number => values.reduce((a, b) => a + b, 0) / values.length;
/** Whether two angles are the same within the cycle. */
function near(a: number, b: number): boolean {
  const d = (a - b) / CYCLE_rad;
  return abs(d - round(d)) * CYCLE_rad < 1e-7;
}

/**
 * The cylinders while they breathe: from exhaust opening to inlet closing each is a volume of gas between two valves; the rest of the
 * cycle it takes no part. Source: docs/basis/waves.md §5.
 */
export class Cylinders {
  /** Fresh gas that passed all inlet valves since `beginCycle`, kg. */
  passed_kg = 0;
  readonly inletArea_m2: Float64Array;
  private readonly exhaustArea_m2: Float64Array;
  private readonly headArea_m2: number;
  private readonly closingVolume_m3: number;
  /** Open valves on a cylinder's volume, 1/m: with a long overlap and a high compression the clearance empties within a step. */
  private readonly openness: Float64Array;
  /** Longest step of the hottest gas: most engines are far from it, and are not asked at every step. */
  private readonly shortest_s: number;
  // Of each: mass, energy, whether it takes part, what flows in, and what it had at its last inlet closing.
  private readonly m: Float64Array;
  private readonly U: Float64Array;
  private readonly open: Uint8Array;
  private readonly rateM: Float64Array;
  private readonly rateU: Float64Array;
  private readonly inletMass: Float64Array;
  private readonly work: Float64Array;
  private readonly trapped: Float64Array;
  private readonly lastInlet: Float64Array;
  /** By what share the trapped mass differed from the cycle before. */
  private readonly lastChange: Float64Array;
  private readonly lastWork: Float64Array;

  constructor(
    private readonly of: EngineFigures,
    private readonly lay: LayOut,
  ) {
    const { n, bore_m, volumes, primary } = of;
    const per = (): Float64Array => new Float64Array(n);
    const port = lay.ducts.endArea_m2[2 * lay.runners[0]!.to + 1]!;
    this.inletArea_m2 = valveTable(of.inlet, port);
    this.exhaustArea_m2 = valveTable(of.exhaust, primary ? (Math.PI / 4) * primary.bore_m ** 2 : Infinity);
    this.headArea_m2 = (2 * Math.PI * bore_m * bore_m) / 4;
    this.closingVolume_m3 = readTable(volumes, of.closes);
    this.openness = volumes.map((V, i) => (this.inletArea_m2[i]! + this.exhaustArea_m2[i]!) / V);
    this.shortest_s = CYLINDER_COURANT / (this.openness.reduce((a, b) => (b > a ? b : a)) * soundSpeed(of.blown_K));
    this.open = new Uint8Array(n);
    [this.m, this.U, this.rateM, this.rateU, this.inletMass, this.work] = [per(), per(), per(), per(), per(), per()];
    [this.trapped, this.lastInlet, this.lastChange, this.lastWork] = [per(), per(), per(), per()];
  }

  /** Still air of the outside in each, whose crank is at its beginning. */
  start(): void {
    const { pa, Tin, n, volumes, opens, closes } = this.of;
    for (let k = 0; k < n; k += 1) {
      const angle = this.angleOf(k, 0);
      const into = angle - opens - floor((angle - opens) / CYCLE_rad) * CYCLE_rad;
      this.open[k] = into < closes - opens ? 1 : 0;
      this.m[k] = (pa * readTable(volumes, angle)) / (R_GAS * Tin);
      this.U[k] = this.m[k]! * C_V * Tin;
      this.trapped[k] = (pa * this.closingVolume_m3) / (R_GAS * Tin);
      this.lastChange[k] = Infinity;
    }
    for (const zero of [this.rateM, this.rateU, this.inletMass, this.lastInlet, this.work, this.lastWork]) zero.fill(0);
  }

  beginCycle(): void {
    this.passed_kg = 0;
  }

  /** No longer a step than any cylinder's gas bears, s. */
  longestStep(wanted_s: number, crank: number, omega: number): number {
    let longest = wanted_s;
    if (this.shortest_s >= longest) return longest;
    for (let k = 0; k < this.of.n; k += 1) {
      if (this.open[k] === 0) continue;
      const turn = readTable(this.openness, this.angleOf(k, crank + 0.5 * omega * longest)) * soundSpeed(this.U[k]! / (this.m[k]! * C_V));
      if (longest * turn > CYLINDER_COURANT) longest = CYLINDER_COURANT / turn;
    }
    return longest;
  }

  /** Carries cylinder k a step on, and solves the ends of its runner and of its exhaust there. */
  step(k: number, at: CrankStep, exhaust_Pa: number): void {
    const { volumes, primary, hw, wall_K, bore_m } = this.of;
    const { ends, endArea_m2: areas } = this.lay.ducts;
    const inletEnd = 2 * this.lay.runners[k]!.to + 1;
    const down = ends[inletEnd]!;
    const exhaustEnd = primary ? 2 * this.lay.primaries[k]!.from : -1;
    if (this.open[k] === 0) {
      wallEnd(down, areas[inletEnd]!);
      if (primary) wallEnd(ends[exhaustEnd]!, areas[exhaustEnd]!);
      return;
    }
    const { dt } = at;
    const angle = this.angleOf(k, at.half);
    const V0 = readTable(volumes, this.angleOf(k, at.crank));
    const V1 = readTable(volumes, this.angleOf(k, at.next));
    const Vh = readTable(volumes, angle);
    // Half a step on, by what flowed before.
    const Mh = this.m[k]! + 0.5 * dt * this.rateM[k]!;
    let Uh = this.U[k]! + 0.5 * dt * this.rateU[k]!;
    Uh -= ((GAMMA - 1) * Uh * (Vh - V0)) / Vh;
    const p = ((GAMMA - 1) * Uh) / Vh;
    const T = Uh / (Mh * C_V);
    const inletArea = readTable(this.inletArea_m2, angle);
    volumeEnd(down, areas[inletEnd]!, p, T, inletArea, inletArea);
    let dm = down.massFlow;
    let dU = down.energyFlow;
    this.inletMass[k]! += down.massFlow * dt;
    this.passed_kg += down.massFlow * dt;
    const exhaustArea = readTable(this.exhaustArea_m2, angle);
    if (primary) {
      const out: EndState = ends[exhaustEnd]!;
      volumeEnd(out, areas[exhaustEnd]!, p, T, exhaustArea, exhaustArea);
      dm += out.massFlow;
      dU += out.energyFlow;
    } else if (exhaustArea > 0) {
      const { reverse_K } = this.of;
      // No more than levels the two out within the step.
      const level = (this.m[k]! * abs(p - exhaust_Pa)) / (GAMMA * p) / dt;
      if (p > exhaust_Pa) {
        const flow = min(nozzleFlow(exhaustArea, p, T, exhaust_Pa), level);
        dm -= flow;
        dU -= flow * C_P * T;
      } else {
        const flow = min(nozzleFlow(exhaustArea, exhaust_Pa, reverse_K, p), level);
        dm += flow;
        dU += flow * C_P * reverse_K;
      }
    }
    dU += hw * (this.headArea_m2 + (4 * Vh) / bore_m) * (wall_K - T);
    this.m[k]! += dm * dt;
    this.U[k]! += dU * dt - p * (V1 - V0);
    this.rateM[k] = dm;
    this.rateU[k] = dU;
    if (angle >= Math.PI && angle < 3 * Math.PI) this.work[k]! += p * (V1 - V0);
  }

  /** At an event: exhaust opening begins a cylinder's part, inlet closing ends it. */
  pass(crank: number): void {
    for (let k = 0; k < this.of.n; k += 1) {
      const own = this.angleOf(k, crank);
      if (near(own, this.of.opens)) {
        this.open[k] = 1;
        this.m[k] = this.trapped[k]!;
        this.U[k] = this.m[k]! * C_V * this.of.blown_K;
        this.rateM[k] = this.rateU[k] = this.inletMass[k] = this.work[k] = 0;
      } else if (this.open[k] === 1 && near(own, this.of.closes)) {
        this.open[k] = 0;
        const before = this.trapped[k]!;
        this.trapped[k] = this.m[k]!;
        this.lastChange[k] = abs(this.m[k]! - before) / before;
        this.lastInlet[k] = this.inletMass[k]!;
        this.work[k]! += this.closedWork(k, own);
        this.lastWork[k] = this.work[k]!;
      }
    }
  }

  /** Whether what each trapped is what it trapped the cycle before. */
  get steady(): boolean {
    return this.lastChange.every((change) => change < SETTLED_MASS);
  }

  /** Each cylinder's volumetric efficiency on the ambient air. */
  get W(): number[] {
    const fresh = (this.of.pa / (R_GAS * this.of.Ta)) * this.of.swept_m3;
    return Array.from(this.lastInlet, (mass) => mass / fresh);
  }

  /** Share of what is trapped that is no fresh charge, mean. */
  get residual(): number {
    return mean(this.lastInlet.map((mass, k) => 1 - mass / this.trapped[k]!));
  }

  /** Work of one cylinder's gas exchange, J, mean. */
  get pumpingWork_J(): number {
    return mean(this.lastWork);
  }

  private angleOf(k: number, crank: number): number {
    const a = crank - this.of.behind[k]!;
    return a - floor(a / CYCLE_rad) * CYCLE_rad;
  }

  /** Work of the charge from an inlet closing before bottom dead centre's end of count (3π) on, isentropic, J. */
  private closedWork(k: number, own: number): number {
    if (own >= 3 * Math.PI) return 0;
    const V0 = readTable(this.of.volumes, own);
    const V1 = readTable(this.of.volumes, 3 * Math.PI);
    const p0 = ((GAMMA - 1) * this.U[k]!) / V0;
    return ((p0 * V0) / (GAMMA - 1)) * (1 - (V0 / V1) ** (GAMMA - 1));
  }
}
