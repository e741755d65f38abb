import { Cylinders, type CrankStep } from './cylinders';
import { CycleRecord } from './cycle-record';
import { jointEnd, openAirEnd, volumeEnd } from './ends';
import { engineFigures, type EngineFigures } from './figures';
import type { WaveEngine } from './input';
import { layOut, type LayOut } from './lay-out';
import { Plenum } from './plenum';
import { lost, type WaveOptions, type WaveResult } from './result';
import { CYCLE_rad } from './valves';

// Taken out of Math once: these run millions of times.
const { abs, min } = Math;

/** Cells of the app: quick enough to play with. The reference cases are reckoned at 12 mm. Source: docs/basis/waves.md §2. */
const DEFAULT_CELL_m = 0.018;
const COURANT = 0.8;
/** A step below this would never end: no engine's ducts ask for it. */
const SHORTEST_STEP_s = 1e-8;
/** Settled: the cylinders are steady, twice running, and the throttle is within this of the valves. */
const SETTLED_FLOW = 0.005;
const SETTLED_CYCLES = 2;
const MOST_CYCLES = 40;
const MOST_CYCLES_LARGE_PLENUM = 60;
const LARGE_PLENUM = 5;

/** A model of one engine, ready to be run at any speed. */
export interface WaveModel {
  readonly run: (rpm: number) => WaveResult;
  readonly cells: number;
}

/** The inlet at work: ducts, cylinders, plenum and throttle, carried on step by step. */
class Inlet {
  private readonly cylinders: Cylinders;
  private readonly plenum: Plenum | null;
  private readonly at: CrankStep = { crank: 0, half: 0, next: 0, dt: 0 };

  constructor(
    private readonly of: EngineFigures,
    private readonly lay: LayOut,
  ) {
    this.cylinders = new Cylinders(of, lay);
    this.plenum = of.plenum_m3 === null ? null : new Plenum(of, lay, of.plenum_m3);
  }

  /** The whole of a run from still air, `limit` cycles at most. */
  run(rpm: number, limit: number, cancelled: () => boolean): WaveResult {
    const { of, cylinders } = this;
    const omega = (rpm * 2 * Math.PI) / 60;
    const exhaust_Pa = of.pa + of.back_Pa * (rpm / of.maxRpm) ** 2;
    this.start(exhaust_Pa);
    const record = new CycleRecord(this.lay, cylinders.inletArea_m2);
    let settledFor = 0;
    let cycles = 0;
    while (cycles < limit && settledFor < SETTLED_CYCLES && !cancelled()) {
      if (!this.cycle(omega, exhaust_Pa, record)) return lost(rpm, cycles);
      cycles += 1;
      const balanced = abs(record.throttle_kg - cylinders.passed_kg) <= SETTLED_FLOW * abs(cylinders.passed_kg);
      settledFor = balanced && cylinders.steady ? settledFor + 1 : 0;
    }
    const { W: Wcylinder, residual, pumpingWork_J } = cylinders;
    return {
      rpm,
      settled: settledFor >= SETTLED_CYCLES,
      cycles,
      W: Wcylinder.reduce((a, b) => a + b, 0) / Wcylinder.length,
      Wcylinder,
      residual,
      pumpingWork_J,
      ...record.told(this.plenum ? null : of.pa),
    };
  }

  private start(exhaust_Pa: number): void {
    const { pa, Tin, reverse_K } = this.of;
    const { ducts, runners, pipeLine, primaries } = this.lay;
    ducts.restart();
    for (const line of [...runners, ...(pipeLine ? [pipeLine] : [])]) for (let d = line.from; d <= line.to; d += 1) ducts.fill(d, pa, Tin);
    for (const line of primaries) ducts.fill(line.from, exhaust_Pa, reverse_K);
    this.cylinders.start();
    this.plenum?.start();
  }

  /** One cycle; false where its figures leave what a gas can be: it is given up, not carried on with. */
  private cycle(omega: number, exhaust_Pa: number, record: CycleRecord): boolean {
    const { events } = this.of;
    const { cylinders, plenum, at } = this;
    let event = 0;
    at.crank = 0;
    record.begin();
    cylinders.beginCycle();
    while (at.crank < CYCLE_rad - 1e-9) {
      while (events[event]! <= at.crank + 1e-9) event += 1;
      const ductStep = COURANT * this.lay.ducts.longestStep();
      const longest = cylinders.longestStep(plenum ? min(ductStep, plenum.longestStep_s) : ductStep, at.crank, omega);
      if (!(longest > SHORTEST_STEP_s)) return false;
      const left = (events[event]! - at.crank) / omega;
      // No sliver of a step is left before an event.
      at.dt = left <= longest ? left : left < 2 * longest ? left / 2 : longest;
      at.half = at.crank + 0.5 * omega * at.dt;
      at.next = left <= longest ? events[event]! : at.crank + omega * at.dt;
      const throttle = this.step(exhaust_Pa);
      record.add(at.half, at.dt, throttle, plenum ? plenum.p : this.of.pa);
      at.crank = at.next;
      if (at.next === events[event]!) cylinders.pass(at.crank);
    }
    record.end();
    return true;
  }

  /** One step of everything; what passes the throttle inwards, or the mouth where there is no plenum, kg/s. */
  private step(exhaust_Pa: number): number {
    const { pa, Tin, n, reverse_K, primary } = this.of;
    const { plenum, cylinders, at } = this;
    const { ducts, runners, primaries, joints, mouth } = this.lay;
    const { ends, endArea_m2: areas } = ducts;
    ducts.prepare(at.dt);
    plenum?.halfOn(at.dt);
    for (let k = 0; k < n; k += 1) {
      const end = 2 * runners[k]!.from;
      if (plenum) plenum.mouth(end);
      else openAirEnd(ends[end]!, areas[end]!, pa, Tin, mouth.K);
      cylinders.step(k, at, exhaust_Pa);
    }
    if (primary)
      for (const line of primaries) {
        const end = 2 * line.to + 1;
        const area = primary.endArea_m2 ?? areas[end]!;
        volumeEnd(ends[end]!, areas[end]!, exhaust_Pa, reverse_K, area, area);
      }
    for (const { d, widening, narrowing } of joints)
      jointEnd(ends[2 * d + 1]!, areas[2 * d + 1]!, ends[2 * d + 2]!, areas[2 * d + 2]!, widening, narrowing);
    const throttle = plenum ? plenum.step(at.dt) : -ends[2 * runners[0]!.from]!.massFlow;
    ducts.finish(at.dt);
    return throttle;
  }
}

/**
 * The unsteady inlet of an engine: ducts, valves, cylinders, plenum and throttle, carried on until the cycles repeat. Every
 * run starts from still air, so that a speed's result does not depend on what was run before it. Source: docs/basis/waves.md
 * §2–§6.
 */
export function waveModel(input: WaveEngine, options: WaveOptions = {}): WaveModel {
  const figures = engineFigures(input);
  const lay = layOut(input, figures.n, options.cell_m ?? DEFAULT_CELL_m);
  const inlet = new Inlet(figures, lay);
  const large = (figures.plenum_m3 ?? 0) > LARGE_PLENUM * figures.displacement_m3;
  const limit = options.maxCycles ?? (large ? MOST_CYCLES_LARGE_PLENUM : MOST_CYCLES);
  return {
    run: (rpm) => inlet.run(rpm, limit, options.cancelled ?? (() => false)),
    cells: lay.cut.reduce((sum, d) => sum + d.cells, 0),
  };
}
