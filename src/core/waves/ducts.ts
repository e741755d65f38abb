import { airViscosity } from '../flow/losses';
import { behindShock, endState, type EndState } from './ends';
import { C_P, C_V, GAMMA, R_GAS } from './gas';
import type { DuctCells } from './shape';

// Taken out of Math once: these run millions of times.
const { abs, log10, max, min, sqrt } = Math;

/** Turbulent friction holds from this Reynolds number on, and is never larger than this. Source: docs/basis/waves.md §2. */
const LEAST_REYNOLDS = 4000;
const MOST_FRICTION = 0.05;
/** Friction follows the flow so slowly that it is read anew only every so many steps. */
const FRICTION_EVERY = 16;
/** Largest jump between two cells, as a share of the pressure and for a cell of this length, that counts as smooth. */
const SMOOTH_SHARE = 0.02;
const SMOOTH_CELL_m = 0.018;
/** A face keeps at least this share of its cell's density and pressure, else the cell is taken as even. */
const LEAST_SHARE = 0.3;

/** Slope towards the neighbour on the side of `near`: third order where the flow is smooth, limited at a jump (Čada, Torrilhon 2009). */
function reach(far: number, near: number, smooth2: number): number {
  const third = (2 * near + far) / 6;
  if (far * far + near * near <= smooth2) return third;
  if (near === 0) return 0;
  const theta = far / near;
  const t = (2 + theta) / 3;
  const inner = max(-0.5 * theta, min(2 * theta, t, 1.6));
  return 0.5 * near * max(0, min(t, inner));
}

/**
 * Gas in any number of ducts: finite volumes, second order in space and time (slopes in ρ, u, p, Hancock's half step), an
 * approximate Riemann solver with contact (HLLC), the walls' friction and heat, losses that stand in the duct. A step is
 * `prepare`, then each end is solved by whoever knows what stands there, then `finish`. Nothing is allocated in a step.
 * Source: docs/basis/waves.md §2.
 */
export class Ducts {
  /** Cell from which each duct begins; one more than there are ducts. */
  readonly first: Int32Array;
  readonly rho: Float64Array;
  readonly u: Float64Array;
  readonly p: Float64Array;
  /** The two ends of each duct, upstream (2d) and downstream (2d + 1): what it brings, and what was found there. */
  readonly ends: readonly EndState[];
  readonly endArea_m2: Float64Array;
  private readonly mass: Float64Array;
  private readonly momentum: Float64Array;
  private readonly energy: Float64Array;
  private readonly volume: Float64Array;
  private readonly dx: Float64Array;
  /** Face areas, one more than cells in each duct. */
  private readonly area: Float64Array;
  /** Taper of each cell, (A_r − A_l)/(V/dx). */
  private readonly widening: Float64Array;
  private readonly bore: Float64Array;
  private readonly standing: Float64Array;
  private readonly roughness: Float64Array;
  private readonly wall: Float64Array;
  private readonly rubs: Uint8Array;
  private readonly friction: Float64Array;
  private readonly rhoL: Float64Array;
  private readonly uL: Float64Array;
  private readonly pL: Float64Array;
  private readonly rhoR: Float64Array;
  private readonly uR: Float64Array;
  private readonly pR: Float64Array;
  private readonly pushes: Float64Array;
  private readonly heats: Float64Array;
  private fastest = 0;
  private steps = 0;

  constructor(private readonly ducts: readonly DuctCells[]) {
    const cells = ducts.reduce((n, d) => n + d.cells, 0);
    const per = (): Float64Array => new Float64Array(cells);
    this.first = new Int32Array(ducts.length + 1);
    this.ends = ducts.flatMap(() => [endState(), endState()]);
    this.endArea_m2 = new Float64Array(2 * ducts.length);
    this.area = new Float64Array(cells + ducts.length);
    [this.rho, this.u, this.p] = [per(), per(), per()];
    [this.mass, this.momentum, this.energy, this.volume, this.dx] = [per(), per(), per(), per(), per()];
    [this.widening, this.bore, this.standing, this.roughness, this.wall, this.friction] = [per(), per(), per(), per(), per(), per()];
    [this.rhoL, this.uL, this.pL, this.rhoR, this.uR, this.pR] = [per(), per(), per(), per(), per(), per()];
    [this.pushes, this.heats] = [per(), per()];
    this.rubs = new Uint8Array(cells);
    let at = 0;
    ducts.forEach((d, k) => {
      this.first[k] = at;
      this.area.set(d.faceArea_m2, at + k);
      this.volume.set(d.volume_m3, at);
      this.bore.set(d.bore_m, at);
      this.standing.set(d.K, at);
      for (let i = 0; i < d.cells; i += 1) {
        this.dx[at + i] = d.dx_m;
        this.widening[at + i] = ((d.faceArea_m2[i + 1]! - d.faceArea_m2[i]!) * d.dx_m) / d.volume_m3[i]!;
        this.roughness[at + i] = (d.walls.roughness_m / d.bore_m[i]! / 3.7) ** 1.11;
        this.wall[at + i] = d.walls.wall_K ?? NaN;
        this.rubs[at + i] = d.walls.friction ? 1 : 0;
      }
      this.endArea_m2[2 * k] = d.faceArea_m2[0]!;
      this.endArea_m2[2 * k + 1] = d.faceArea_m2[d.cells]!;
      at += d.cells;
      this.first[k + 1] = at;
    });
  }

  /** Middle of each cell of a duct from its upstream end, m. */
  places(duct: number): Float64Array {
    const { cells, dx_m } = this.ducts[duct]!;
    return Float64Array.from({ length: cells }, (_, i) => (i + 0.5) * dx_m);
  }

  /** Sets one cell's state: pressure Pa, temperature K, velocity m/s. */
  setCell(cell: number, p_Pa: number, T_K: number, u_mps = 0): void {
    const rho = p_Pa / (R_GAS * T_K);
    const V = this.volume[cell]!;
    this.mass[cell] = rho * V;
    this.momentum[cell] = rho * V * u_mps;
    this.energy[cell] = rho * V * (C_V * T_K + (u_mps * u_mps) / 2);
    this.rho[cell] = rho;
    this.u[cell] = u_mps;
    this.p[cell] = p_Pa;
    this.fastest = max(this.fastest, (abs(u_mps) + sqrt(GAMMA * R_GAS * T_K)) / this.dx[cell]!);
  }

  fill(duct: number, p_Pa: number, T_K: number): void {
    for (let i = this.first[duct]!; i < this.first[duct + 1]!; i += 1) this.setCell(i, p_Pa, T_K);
  }

  /** Forgets the run before: the next begins as the first did. Cells are to be filled anew. */
  restart(): void {
    this.fastest = 0;
    this.steps = 0;
    this.friction.fill(0);
  }

  /** Longest step at a Courant number of 1, s. */
  longestStep(): number {
    return 1 / this.fastest;
  }

  totalMass(): number {
    return this.mass.reduce((a, b) => a + b, 0);
  }

  totalEnergy(): number {
    return this.energy.reduce((a, b) => a + b, 0);
  }

  /** States of every face half a step on, and what each duct brings to its ends. */
  prepare(dt: number): void {
    const { rho, u, p, dx, widening, rhoL, uL, pL, rhoR, uR, pR, first, area } = this;
    if (this.steps % FRICTION_EVERY === 0) this.readFriction();
    this.steps += 1;
    for (let d = 0; d < this.ducts.length; d += 1) {
      const a = first[d]!;
      const b = first[d + 1]!;
      const cell = dx[a]!;
      const jump = (SMOOTH_SHARE * cell) / SMOOTH_CELL_m;
      for (let i = a; i < b; i += 1) {
        const ri = rho[i]!;
        const ui = u[i]!;
        const pi = p[i]!;
        // At an end the slope is that of the one neighbour there is.
        const l = i > a ? i - 1 : i;
        const r = i < b - 1 ? i + 1 : i;
        let rFar = ri - rho[l]!;
        let rNear = rho[r]! - ri;
        let uFar = ui - u[l]!;
        let uNear = u[r]! - ui;
        let pFar = pi - p[l]!;
        let pNear = p[r]! - pi;
        if (l === i) {
          rFar = rNear;
          uFar = uNear;
          pFar = pNear;
        } else if (r === i) {
          rNear = rFar;
          uNear = uFar;
          pNear = pFar;
        }
        const c2 = (GAMMA * pi) / ri;
        const sp = pi * jump;
        const sr = sp / c2;
        const su2 = (sr * sr * c2) / (ri * ri);
        let ra = reach(rFar, rNear, sr * sr);
        let rb = reach(rNear, rFar, sr * sr);
        let ua = reach(uFar, uNear, su2);
        let ub = reach(uNear, uFar, su2);
        let pa = reach(pFar, pNear, sp * sp);
        let pb = reach(pNear, pFar, sp * sp);
        const h = (0.5 * dt) / cell;
        let dr = -h * (ui * (ra + rb) + ri * (ua + ub + ui * widening[i]!));
        let du = -h * (ui * (ua + ub) + (pa + pb) / ri);
        let dp = -h * (ui * (pa + pb) + GAMMA * pi * (ua + ub + ui * widening[i]!));
        if (
          ri + dr + ra < LEAST_SHARE * ri ||
          ri + dr - rb < LEAST_SHARE * ri ||
          pi + dp + pa < LEAST_SHARE * pi ||
          pi + dp - pb < LEAST_SHARE * pi
        ) {
          ra = rb = ua = ub = pa = pb = dr = du = dp = 0;
        }
        const rm = ri + dr;
        const um = ui + du;
        const pm = pi + dp;
        rhoR[i] = rm + ra;
        uR[i] = um + ua;
        pR[i] = pm + pa;
        rhoL[i] = rm - rb;
        uL[i] = um - ub;
        pL[i] = pm - pb;
        this.sources(i, rm, um, pm, area[i + d + 1]! - area[i + d]!, cell);
      }
      const up = this.ends[2 * d]!;
      up.rho = rhoL[a]!;
      up.u = -uL[a]!;
      up.p = pL[a]!;
      up.c = sqrt((GAMMA * up.p) / up.rho);
      behindShock(up);
      const down = this.ends[2 * d + 1]!;
      down.rho = rhoR[b - 1]!;
      down.u = uR[b - 1]!;
      down.p = pR[b - 1]!;
      down.c = sqrt((GAMMA * down.p) / down.rho);
      behindShock(down);
    }
  }

  /** What walls and losses do to a cell half a step on: force N, heat W. */
  private sources(i: number, rho: number, u: number, p: number, areaChange: number, cell: number): void {
    const speed = u < 0 ? -u : u;
    const f = this.friction[i]!;
    const bore = this.bore[i]!;
    const A = this.volume[i]! / cell;
    this.pushes[i] = p * areaChange - 0.5 * rho * u * speed * A * ((this.rubs[i]! * f * cell) / bore + this.standing[i]!);
    const wall = this.wall[i]!;
    this.heats[i] = wall > 0 ? (f / 8) * rho * speed * C_P * Math.PI * bore * cell * (wall - p / (rho * R_GAS)) : 0;
  }

  private readFriction(): void {
    const { rho, u, p, bore, roughness, friction, rubs, wall } = this;
    for (let i = 0; i < friction.length; i += 1) {
      if (rubs[i] === 0 && !(wall[i]! > 0)) continue;
      const T = p[i]! / (rho[i]! * R_GAS);
      const reynolds = max((rho[i]! * abs(u[i]!) * bore[i]!) / airViscosity(T), LEAST_REYNOLDS);
      const side = -1.8 * log10(roughness[i]! + 6.9 / reynolds);
      friction[i] = min(1 / (side * side), MOST_FRICTION);
    }
  }

  /** Carries every cell over the step; the ends have been solved. */
  finish(dt: number): void {
    const { mass, momentum, energy, volume, rho, u, p, dx, first, area, rhoL, uL, pL, rhoR, uR, pR, pushes, heats } = this;
    let fastest = 0;
    for (let d = 0; d < this.ducts.length; d += 1) {
      const a = first[d]!;
      const b = first[d + 1]!;
      const up = this.ends[2 * d]!;
      const down = this.ends[2 * d + 1]!;
      let massIn = -up.massFlow;
      let forceIn = up.force;
      let energyIn = -up.energyFlow;
      for (let i = a; i < b; i += 1) {
        let massOut = down.massFlow;
        let forceOut = down.force;
        let energyOut = down.energyFlow;
        if (i < b - 1) {
          const j = i + 1;
          const A = area[j + d]!;
          const r1 = rhoR[i]!;
          const u1 = uR[i]!;
          const p1 = pR[i]!;
          const r2 = rhoL[j]!;
          const u2 = uL[j]!;
          const p2 = pL[j]!;
          const c1 = sqrt((GAMMA * p1) / r1);
          const c2 = sqrt((GAMMA * p2) / r2);
          // The pressure between them by the primitive estimate; wave speeds by Toro (2009), §10.5.
          const between = 0.5 * (p1 + p2) - 0.125 * (u2 - u1) * (r1 + r2) * (c1 + c2);
          const s1 = u1 - (between > p1 ? c1 * sqrt(1 + (6 / 7) * (between / p1 - 1)) : c1);
          const s2 = u2 + (between > p2 ? c2 * sqrt(1 + (6 / 7) * (between / p2 - 1)) : c2);
          const m1 = r1 * (s1 - u1);
          const m2 = r2 * (s2 - u2);
          const star = (p2 - p1 + u1 * m1 - u2 * m2) / (m1 - m2);
          const left = star >= 0;
          const r = left ? r1 : r2;
          const v = left ? u1 : u2;
          const q = left ? p1 : p2;
          const s = left ? s1 : s2;
          const E = q / (GAMMA - 1) + 0.5 * r * v * v;
          let fm = r * v;
          let fp = fm * v + q;
          let fe = v * (E + q);
          if (left ? s1 < 0 : s2 > 0) {
            const rs = (r * (s - v)) / (s - star);
            const es = rs * (E / r + (star - v) * (star + q / (r * (s - v))));
            fm += s * (rs - r);
            fp += s * (rs * star - r * v);
            fe += s * (es - E);
          }
          massOut = fm * A;
          forceOut = fp * A;
          energyOut = fe * A;
        }
        const M = mass[i]! + dt * (massIn - massOut);
        const P = momentum[i]! + dt * (forceIn - forceOut + pushes[i]!);
        const E = energy[i]! + dt * (energyIn - energyOut + heats[i]!);
        mass[i] = M;
        momentum[i] = P;
        energy[i] = E;
        massIn = massOut;
        forceIn = forceOut;
        energyIn = energyOut;
        const V = volume[i]!;
        const ri = M / V;
        const ui = P / M;
        const pi = (GAMMA - 1) * (E / V - 0.5 * ri * ui * ui);
        rho[i] = ri;
        u[i] = ui;
        p[i] = pi;
        const rate = ((ui < 0 ? -ui : ui) + sqrt((GAMMA * pi) / ri)) / dx[i]!;
        // What is no number stays: the next step is not taken from the cells behind it.
        if (!(rate <= fastest) && fastest === fastest) fastest = rate;
      }
    }
    this.fastest = fastest;
  }
}
