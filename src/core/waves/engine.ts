import { squareStroke } from '../engine/power';
import { jointEnd, openAirEnd, volumeEnd, wallEnd } from './ends';
import { C_P, C_V, GAMMA, nozzleFlow, R_GAS, soundSpeed } from './gas';
import { readTable, ROD_RATIO, valveOf, valveTable, volumeTable, type WaveEngine } from './input';
import { layOut } from './lay-out';
import { levelling } from './levelling';
import { lost, ROWS, type WaveOptions, type WaveResult } from './result';
import { CYCLE_rad } from './valves';

// Taken out of Math once: these run millions of times.
const { abs, floor, min, round } = Math;

/** Cells of the app: quick enough to play with. The reference cases are reckoned at 12 mm. Source: docs/basis/waves.md §2. */
const DEFAULT_CELL_m = 0.018;
const COURANT = 0.8;
const PLENUM_COURANT = 0.4;
/** Share of a cylinder's gas that may leave it in a step at the speed of sound: beyond, its pressure swings from step to step. */
const CYLINDER_COURANT = 0.15;
/** A step below this would never end: no engine's ducts ask for it. */
const SHORTEST_STEP_s = 1e-8;
const USUAL_BACK_Pa = 15_000;
const EXHAUST_REVERSE_K = 900;
/** Settled: each trapped mass within this of the cycle before, twice running, and the throttle within this of the valves. */
const SETTLED_MASS = 0.002;
const SETTLED_FLOW = 0.005;
const MOST_CYCLES = 40;
const MOST_CYCLES_LARGE_PLENUM = 60;
const LARGE_PLENUM = 5;

/** A model of one engine, ready to be run at any speed. */
export interface WaveModel {
  readonly run: (rpm: number) => WaveResult;
  readonly cells: number;
}

/**
 * The unsteady inlet of an engine: ducts, valves, cylinders, plenum and throttle, carried on until the cycles repeat. Every
 * run starts from still air, so that a speed's result does not depend on what was run before it. Source: docs/basis/waves.md
 * §2–§6.
 */
export function waveModel(input: WaveEngine, options: WaveOptions = {}): WaveModel {
  const pa = input.ambient?.p_Pa ?? 101_325;
  const Ta = input.ambient?.T_K ?? 298.15;
  const Tin = input.inletT_K ?? Ta;
  const cell = options.cell_m ?? DEFAULT_CELL_m;
  const { displacement_m3, cylinders, compressionRatio } = input.engine;
  const swept = displacement_m3 / cylinders;
  const bore = input.engine.bore_m ?? squareStroke(swept, 1);
  const shape = { swept_m3: swept, compressionRatio, lambda: input.engine.lambda ?? ROD_RATIO };
  const hw = input.engine.hw ?? 250;
  const wallT = input.engine.wall_K ?? 430;
  const blownT = input.engine.exhaust_K ?? 1600;
  const maxRpm = input.engine.maxRpm_rpm ?? 7000;
  const back = input.exhaust?.back_Pa ?? USUAL_BACK_Pa;
  const reverseT = input.exhaust?.reverseT_K ?? EXHAUST_REVERSE_K;
  const primary = input.exhaust?.primary ?? null;
  const plenum = input.plenum ?? null;
  // Without a plenum the cylinders share only open air: one stands for all.
  const n = plenum ? cylinders : 1;
  const throttleArea = input.throttle?.effectiveArea_m2 ?? Infinity;

  const { cut, ducts, runners, pipeLine, primaries, joints, mouth, pipeMouth, before } = layOut(input, n, cell);
  const ends = ducts.ends;
  const areas = ducts.endArea_m2;
  const inlet = valveOf(input.inletValve, bore, 'inlet');
  const exhaust = valveOf(input.exhaustValve, bore, 'exhaust');
  const port = areas[2 * runners[0]!.to + 1]!;
  const inletTable = valveTable(inlet, port);
  const exhaustTable = valveTable(exhaust, primary ? (Math.PI / 4) * primary.bore_m ** 2 : Infinity);
  const volumes = volumeTable(shape);
  const opens = exhaust.lobe.centre_rad - exhaust.lobe.duration_rad / 2;
  const closes = inlet.lobe.centre_rad + inlet.lobe.duration_rad / 2;
  const headArea = (2 * Math.PI * bore * bore) / 4;
  // Open valves on a cylinder's volume, 1/m: with a long overlap and a high compression the clearance empties within a step.
  const openness = volumes.map((V, i) => (inletTable[i]! + exhaustTable[i]!) / V);
  // Most engines are far from it even with their hottest gas, and are not asked at every step.
  const cylinderStep = CYLINDER_COURANT / (openness.reduce((a, b) => (b > a ? b : a)) * soundSpeed(blownT));

  // Each cylinder's place in the firing order: the k-th to fire runs 4π·k/n behind the first.
  const order = input.engine.firingOrder ?? Array.from({ length: n }, (_, k) => k + 1);
  const place = (k: number): number => (n === 1 ? 0 : order.indexOf(k + 1));
  // Told from cylinder 1, whose own angle is the crank's.
  const behind = Float64Array.from({ length: n }, (_, k) => (CYCLE_rad * ((place(k) - place(0) + n) % n)) / n);

  // Cylinders: mass, energy, and whether they take part.
  const m = new Float64Array(n);
  const U = new Float64Array(n);
  const trapped = new Float64Array(n);
  const open = new Uint8Array(n);
  const rateM = new Float64Array(n);
  const rateU = new Float64Array(n);
  const inletMass = new Float64Array(n);
  const lastInlet = new Float64Array(n);
  const lastTrapped = new Float64Array(n);
  const work = new Float64Array(n);
  const lastWork = new Float64Array(n);
  let plenumM = 0;
  let plenumU = 0;
  let plenumRateM = 0;
  let plenumRateU = 0;
  const angleOf = (k: number, crank: number): number => {
    const a = crank - behind[k]!;
    return a - floor(a / CYCLE_rad) * CYCLE_rad;
  };
  /** Whether a cylinder at its own angle is between exhaust opening and inlet closing. */
  const takesPart = (angle: number): boolean => {
    const into = angle - opens - floor((angle - opens) / CYCLE_rad) * CYCLE_rad;
    return into < closes - opens;
  };
  const closingVolume = readTable(volumes, closes);

  const start = (exhaust_Pa: number): void => {
    ducts.restart();
    for (const line of [...runners, ...(pipeLine ? [pipeLine] : [])]) for (let d = line.from; d <= line.to; d += 1) ducts.fill(d, pa, Tin);
    for (const line of primaries) ducts.fill(line.from, exhaust_Pa, reverseT);
    for (let k = 0; k < n; k += 1) {
      const angle = angleOf(k, 0);
      open[k] = takesPart(angle) ? 1 : 0;
      const V = readTable(volumes, angle);
      m[k] = (pa * V) / (R_GAS * Tin);
      U[k] = m[k]! * C_V * Tin;
      trapped[k] = (pa * closingVolume) / (R_GAS * Tin);
      rateM[k] = rateU[k] = inletMass[k] = lastInlet[k] = work[k] = lastWork[k] = 0;
      lastTrapped[k] = Infinity;
    }
    if (plenum) {
      plenumM = (pa * plenum.volume_m3) / (R_GAS * Tin);
      plenumU = plenumM * C_V * Tin;
      plenumRateM = plenumRateU = 0;
    }
  };

  // The crank angles at which some cylinder's exhaust opens or inlet closes, and the cycle's end: steps end on them.
  const events = [
    ...new Set([...Array.from({ length: n }, (_, k) => [opens, closes].map((e) => (e + behind[k]!) % CYCLE_rad)).flat(), CYCLE_rad]),
  ]
    .map((e) => (e < 0 ? e + CYCLE_rad : e))
    .sort((a, b) => a - b);

  const runnerCells = ducts.first[runners[0]!.to + 1]! - ducts.first[runners[0]!.from]!;
  const places_m = new Float64Array(runnerCells);
  {
    let at = 0;
    let along = -before;
    for (let d = runners[0]!.from; d <= runners[0]!.to; d += 1) {
      const own = ducts.places(d);
      places_m.set(
        own.map((x) => x + along),
        at,
      );
      at += own.length;
      along += cut[d]!.cells * cut[d]!.dx_m;
    }
  }

  // What flows at the speed of sound through every opening of a plenum in a step is no more than a part of what is in it.
  const plenumStep = plenum
    ? (PLENUM_COURANT * plenum.volume_m3) /
      (soundSpeed(Tin) * (n * areas[2 * runners[0]!.from]! + (pipeLine ? min(throttleArea, areas[2 * pipeLine.to + 1]!) : 0)))
    : Infinity;

  const run = (rpm: number): WaveResult => {
    const omega = (rpm * 2 * Math.PI) / 60;
    const exhaust_Pa = pa + back * (rpm / maxRpm) ** 2;
    start(exhaust_Pa);
    const limit =
      options.maxCycles ?? (plenum && plenum.volume_m3 > LARGE_PLENUM * displacement_m3 ? MOST_CYCLES_LARGE_PLENUM : MOST_CYCLES);
    const fresh = (pa / (R_GAS * Ta)) * swept;

    const curve = (): Float64Array => new Float64Array(ROWS + 1);
    const curves = { valve_Pa: curve(), mouth_Pa: curve(), plenum_Pa: curve(), throttle_kgps: curve(), inletArea_m2: curve() };
    const picture = new Float32Array((ROWS + 1) * runnerCells);
    curves.inletArea_m2.set(Float64Array.from({ length: ROWS + 1 }, (_, i) => readTable(inletTable, (i / ROWS) * CYCLE_rad)));
    const firstRunner = ducts.first[runners[0]!.from]!;

    let settled = false;
    let settledFor = 0;
    let cycles = 0;
    let throttleMass = 0;
    let valveMass = 0;
    let peak = 0;
    let reversed = 0;
    let plenumTime = 0;
    let cycleTime = 0;
    const mouthEnd = 2 * runners[0]!.from;
    const valveEnd = 2 * runners[0]!.to + 1;

    while (cycles < limit && !settled && !(options.cancelled?.() ?? false)) {
      let crank = 0;
      let event = 0;
      let row = 0;
      throttleMass = valveMass = peak = reversed = plenumTime = cycleTime = 0;
      while (crank < CYCLE_rad - 1e-9) {
        while (events[event]! <= crank + 1e-9) event += 1;
        let longest = min(COURANT * ducts.longestStep(), plenumStep);
        if (cylinderStep < longest)
          for (let k = 0; k < n; k += 1) {
            if (open[k] === 0) continue;
            const turn = readTable(openness, angleOf(k, crank + 0.5 * omega * longest)) * soundSpeed(U[k]! / (m[k]! * C_V));
            if (longest * turn > CYLINDER_COURANT) longest = CYLINDER_COURANT / turn;
          }
        // Figures beyond what a gas can be: the cycle is given up, not carried on with.
        if (!(longest > SHORTEST_STEP_s)) return lost(rpm, cycles);
        const left = (events[event]! - crank) / omega;
        // No sliver of a step is left before an event.
        const dt = left <= longest ? left : left < 2 * longest ? left / 2 : longest;
        const half = crank + 0.5 * omega * dt;
        const next = left <= longest ? events[event]! : crank + omega * dt;

        ducts.prepare(dt);
        // Volumes half a step on, by what flowed before.
        let plenumP = pa;
        let plenumT = Tin;
        if (plenum) {
          const mass = plenumM + 0.5 * dt * plenumRateM;
          const energy = plenumU + 0.5 * dt * plenumRateU;
          plenumP = ((GAMMA - 1) * energy) / plenum.volume_m3;
          plenumT = energy / (mass * C_V);
        }
        let plenumIn = 0;
        let plenumEnergy = 0;
        for (let k = 0; k < n; k += 1) {
          const line = runners[k]!;
          const up = ends[2 * line.from]!;
          const down = ends[2 * line.to + 1]!;
          const upArea = areas[2 * line.from]!;
          const downArea = areas[2 * line.to + 1]!;
          // Mouth.
          if (plenum) {
            volumeEnd(up, upArea, plenumP, plenumT, upArea * mouth.inwardCd, upArea);
            plenumIn += up.massFlow;
            plenumEnergy += up.energyFlow;
          } else openAirEnd(up, upArea, pa, Tin, mouth.K);
          // Valves and cylinder.
          if (open[k] === 0) {
            wallEnd(down, downArea);
            if (primary) wallEnd(ends[2 * primaries[k]!.from]!, areas[2 * primaries[k]!.from]!);
            continue;
          }
          const angle = angleOf(k, half);
          const V0 = readTable(volumes, angleOf(k, crank));
          const V1 = readTable(volumes, angleOf(k, next));
          const Vh = readTable(volumes, angle);
          const Mh = m[k]! + 0.5 * dt * rateM[k]!;
          let Uh = U[k]! + 0.5 * dt * rateU[k]!;
          Uh -= ((GAMMA - 1) * Uh * (Vh - V0)) / Vh;
          const p = ((GAMMA - 1) * Uh) / Vh;
          const T = Uh / (Mh * C_V);
          const inletArea = readTable(inletTable, angle);
          volumeEnd(down, downArea, p, T, inletArea, inletArea);
          let dm = down.massFlow;
          let dU = down.energyFlow;
          inletMass[k]! += down.massFlow * dt;
          valveMass += down.massFlow * dt;
          const exhaustArea = readTable(exhaustTable, angle);
          if (primary) {
            const end = 2 * primaries[k]!.from;
            volumeEnd(ends[end]!, areas[end]!, p, T, exhaustArea, exhaustArea);
            dm += ends[end]!.massFlow;
            dU += ends[end]!.energyFlow;
          } else if (exhaustArea > 0) {
            // No more than levels the two out within the step.
            const level = (m[k]! * abs(p - exhaust_Pa)) / (GAMMA * p) / dt;
            if (p > exhaust_Pa) {
              const flow = min(nozzleFlow(exhaustArea, p, T, exhaust_Pa), level);
              dm -= flow;
              dU -= flow * C_P * T;
            } else {
              const flow = min(nozzleFlow(exhaustArea, exhaust_Pa, reverseT, p), level);
              dm += flow;
              dU += flow * C_P * reverseT;
            }
          }
          dU += hw * (headArea + (4 * Vh) / bore) * (wallT - T);
          m[k]! += dm * dt;
          U[k]! += dU * dt - p * (V1 - V0);
          rateM[k] = dm;
          rateU[k] = dU;
          if (angle >= Math.PI && angle < 3 * Math.PI) work[k]! += p * (V1 - V0);
        }
        if (primary)
          for (const line of primaries) {
            const end = 2 * line.to + 1;
            const area = primary.endArea_m2 ?? areas[end]!;
            volumeEnd(ends[end]!, areas[end]!, exhaust_Pa, reverseT, area, area);
          }
        for (const j of joints)
          jointEnd(ends[2 * j.d + 1]!, areas[2 * j.d + 1]!, ends[2 * j.d + 2]!, areas[2 * j.d + 2]!, j.widening, j.narrowing);
        // Throttle.
        let throttle = 0;
        if (plenum) {
          let energy = 0;
          if (pipeLine) {
            const up = 2 * pipeLine.from;
            const down = 2 * pipeLine.to + 1;
            openAirEnd(ends[up]!, areas[up]!, pa, Tin, pipeMouth!.K);
            const area = min(throttleArea, areas[down]!);
            volumeEnd(ends[down]!, areas[down]!, plenumP, plenumT, area, area);
            throttle = ends[down]!.massFlow;
            energy = ends[down]!.energyFlow;
          } else {
            throttle = levelling(
              throttleArea,
              { pa, Tin, p: ((GAMMA - 1) * plenumU) / plenum.volume_m3, T: plenumT },
              plenumM,
              plenumIn,
              dt,
            );
            energy = throttle * C_P * (throttle >= 0 ? Tin : plenumT);
          }
          plenumRateM = throttle + plenumIn;
          plenumRateU = energy + plenumEnergy;
          plenumM += plenumRateM * dt;
          plenumU += plenumRateU * dt;
        } else throttle = -ends[mouthEnd]!.massFlow;
        ducts.finish(dt);

        throttleMass += throttle * dt;
        if (throttle > peak) peak = throttle;
        if (throttle < 0) reversed -= throttle * dt;
        plenumTime += plenumP * dt;
        cycleTime += dt;
        // Rows of the picture that fall into this step.
        while (row < ROWS && (row / ROWS) * CYCLE_rad <= half) {
          curves.valve_Pa[row] = ends[valveEnd]!.pressure;
          curves.mouth_Pa[row] = ends[mouthEnd]!.pressure;
          curves.plenum_Pa[row] = plenumP;
          curves.throttle_kgps[row] = throttle;
          for (let i = 0; i < runnerCells; i += 1) picture[row * runnerCells + i] = ducts.p[firstRunner + i]!;
          row += 1;
        }
        crank = next;
        // Events: exhaust opening begins a cylinder's part, inlet closing ends it.
        if (next === events[event]!)
          for (let k = 0; k < n; k += 1) {
            const own = angleOf(k, crank);
            if (near(own, opens)) {
              open[k] = 1;
              m[k] = trapped[k]!;
              U[k] = m[k]! * C_V * blownT;
              rateM[k] = rateU[k] = 0;
              inletMass[k] = 0;
              work[k] = 0;
            } else if (open[k] === 1 && near(own, closes)) {
              open[k] = 0;
              const before = trapped[k]!;
              trapped[k] = m[k]!;
              lastTrapped[k] = abs(m[k]! - before) / before;
              lastInlet[k] = inletMass[k]!;
              work[k]! += closedWork(k, own);
              lastWork[k] = work[k]!;
            }
          }
      }
      while (row <= ROWS) {
        // The cycle closes on itself.
        const from = row === ROWS ? 0 : row - 1;
        for (const c of [curves.valve_Pa, curves.mouth_Pa, curves.plenum_Pa, curves.throttle_kgps]) c[row] = c[from]!;
        picture.copyWithin(row * runnerCells, from * runnerCells, (from + 1) * runnerCells);
        row += 1;
      }
      cycles += 1;
      let steady = abs(throttleMass - valveMass) <= SETTLED_FLOW * abs(valveMass);
      for (let k = 0; k < n; k += 1) if (!(lastTrapped[k]! < SETTLED_MASS)) steady = false;
      settledFor = steady ? settledFor + 1 : 0;
      settled = settledFor >= 2;
    }

    const Wcylinder = Array.from(lastInlet, (mass) => mass / fresh);
    const mean = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length;
    const meanFlow = throttleMass / cycleTime;
    return {
      rpm,
      settled,
      cycles,
      W: mean(Wcylinder),
      Wcylinder,
      residual: mean(Array.from(lastInlet, (mass, k) => 1 - mass / trapped[k]!)),
      pumpingWork_J: mean(Array.from(lastWork)),
      plenum_Pa: plenum ? plenumTime / cycleTime : pa,
      peakToMean: peak / meanFlow,
      peakFlow_kgps: peak,
      reversedShare: reversed / (throttleMass + reversed),
      curves,
      picture: { places_m, p_Pa: picture },
    };
  };

  /** Work of the charge from an inlet closing before bottom dead centre's end of count (3π) on, isentropic, J. */
  function closedWork(k: number, own: number): number {
    if (own >= 3 * Math.PI) return 0;
    const V0 = readTable(volumes, own);
    const V1 = readTable(volumes, 3 * Math.PI);
    const p0 = ((GAMMA - 1) * U[k]!) / V0;
    return ((p0 * V0) / (GAMMA - 1)) * (1 - (V0 / V1) ** (GAMMA - 1));
  }
  return { run, cells: cut.reduce((sum, d) => sum + d.cells, 0) };
}

/** Whether two angles are the same within the cycle. */
function near(a: number, b: number): boolean {
  const d = (a - b) / CYCLE_rad;
  return abs(d - round(d)) * CYCLE_rad < 1e-7;
}
