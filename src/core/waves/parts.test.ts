import { Cylinders } from './cylinders';
import { CycleRecord } from './cycle-record';
import { engineFigures } from './figures';
import { C_V, R_GAS } from './gas';
import { readTable, type WaveEngine } from './input';
import { layOut } from './lay-out';
import { Plenum } from './plenum';
import { ROWS } from './result';
import { CYCLE_rad } from './valves';

const straight = (length_m: number, bore_m: number) => ({ length_m, inBore_m: bore_m, outBore_m: bore_m });
const FOUR: WaveEngine = {
  ambient: { p_Pa: 100_000, T_K: 300 },
  engine: { displacement_m3: 0.002, cylinders: 4, compressionRatio: 10.5, maxRpm_rpm: 7500 },
  runner: { segments: [straight(0.3, 0.038)] },
  plenum: { volume_m3: 0.003 },
  throttle: { effectiveArea_m2: 1.8e-3 },
};
const built = (input: WaveEngine) => {
  const of = engineFigures(input);
  const lay = layOut(input, of.n, 0.018);
  for (const line of lay.runners) for (let d = line.from; d <= line.to; d += 1) lay.ducts.fill(d, of.pa, of.Tin);
  return { of, lay };
};

describe('what an engine is reckoned with', () => {
  it('a cylinder stands for all where they share only open air; behind a plenum each is reckoned', () => {
    expect(engineFigures(FOUR)).toMatchObject({ n: 4, plenum_m3: 0.003, swept_m3: 0.0005 });
    const alone = engineFigures({ ...FOUR, plenum: null });
    expect(alone).toMatchObject({ n: 1, plenum_m3: null, swept_m3: 0.0005 });
    expect([...alone.behind]).toEqual([0]);
  });

  it('each cylinder is as far behind the first as it fires after it', () => {
    const { behind } = engineFigures({ ...FOUR, engine: { ...FOUR.engine, firingOrder: [1, 3, 4, 2] } });
    expect([...behind].map((b) => b / Math.PI)).toEqual([0, 3, 1, 2]);
    // Told from cylinder 1, wherever the order is begun.
    const turned = engineFigures({ ...FOUR, engine: { ...FOUR.engine, firingOrder: [4, 2, 1, 3] } });
    expect([...turned.behind]).toEqual([...behind]);
  });

  it('steps end where a valve opens or closes on some cylinder, each once, and at the cycle’s end', () => {
    const { events, opens, closes, behind } = engineFigures(FOUR);
    expect(events).toEqual([...events].sort((a, b) => a - b));
    expect(new Set(events).size).toBe(events.length);
    expect(events).toHaveLength(2 * behind.length + 1);
    expect(events.at(-1)).toBe(CYCLE_rad);
    for (const later of behind)
      for (const e of [opens, closes]) expect(events.some((x) => Math.abs(x - ((e + later) % CYCLE_rad)) < 1e-9)).toBe(true);
  });

  it('what is not told is as usual; warmed air is warmer than the ambient', () => {
    expect(engineFigures(FOUR)).toMatchObject({ Tin: 300, hw: 250, wall_K: 430, blown_K: 1600, back_Pa: 15_000, throttleArea_m2: 1.8e-3 });
    expect(engineFigures({ ...FOUR, inletT_K: 320, throttle: null })).toMatchObject({ Ta: 300, Tin: 320, throttleArea_m2: Infinity });
  });
});

describe('cylinders', () => {
  const at = (crank: number, turn: number, dt = 1e-5) => ({ crank, half: crank + turn / 2, next: crank + turn, dt });
  /** Crank angle in the middle of the first cylinder's closed part. */
  const shutAngle = (of: ReturnType<typeof engineFigures>): number => (of.closes + (of.opens + CYCLE_rad - of.closes) / 2) % CYCLE_rad;

  it('nothing passes the valves of one that takes no part', () => {
    const { of, lay } = built(FOUR);
    const cylinders = new Cylinders(of, lay);
    cylinders.start();
    cylinders.beginCycle();
    // Its part ends at inlet closing.
    cylinders.pass(of.closes % CYCLE_rad);
    lay.ducts.prepare(1e-5);
    cylinders.step(0, at(shutAngle(of), 0.01), of.pa);
    expect(lay.ducts.ends[2 * lay.runners[0]!.to + 1]!.massFlow).toBe(0);
    expect(cylinders.passed_kg).toBe(0);
  });

  it('one that is blown down pushes gas back through an open inlet, and counts it', () => {
    const { of, lay } = built({ ...FOUR, inletValve: { duration_rad: 6 }, exhaustValve: { duration_rad: 6 } });
    const cylinders = new Cylinders(of, lay);
    cylinders.start();
    cylinders.beginCycle();
    // At exhaust opening what was trapped is hot gas at many times the outside's pressure.
    cylinders.pass(of.opens);
    const angle = 2 * Math.PI;
    expect(readTable(cylinders.inletArea_m2, angle)).toBeGreaterThan(0);
    lay.ducts.prepare(1e-6);
    cylinders.step(0, at(angle, 0.001, 1e-6), of.pa);
    const { massFlow } = lay.ducts.ends[2 * lay.runners[0]!.to + 1]!;
    expect(massFlow).toBeLessThan(0);
    expect(cylinders.passed_kg).toBeCloseTo(massFlow * 1e-6, 15);
  });

  it('is not steady before it has closed twice alike', () => {
    const { of, lay } = built({ ...FOUR, plenum: null });
    const cylinders = new Cylinders(of, lay);
    cylinders.start();
    expect(cylinders.steady).toBe(false);
    // What it trapped is what it began with: still air at the outside's pressure.
    cylinders.pass(of.opens);
    cylinders.pass(of.closes % CYCLE_rad);
    expect(cylinders.steady).toBe(true);
    expect(cylinders.W).toEqual([0]);
    expect(cylinders.residual).toBe(1);
  });

  it('asks for shorter steps only where its valves are wide open on little gas', () => {
    const calm = built(FOUR);
    const usual = new Cylinders(calm.of, calm.lay);
    usual.start();
    expect(usual.longestStep(1e-5, 0, 600)).toBe(1e-5);
    const racer = built({
      ...FOUR,
      engine: { ...FOUR.engine, compressionRatio: 16 },
      inletValve: { count: 2, duration_rad: 6 },
      exhaustValve: { count: 2, duration_rad: 6 },
    });
    const wide = new Cylinders(racer.of, racer.lay);
    wide.start();
    expect(wide.longestStep(1e-3, 2 * Math.PI, 600)).toBeLessThan(usual.longestStep(1e-3, 2 * Math.PI, 600));
    // A step that is short enough stays as it was asked for.
    expect(wide.longestStep(1e-6, 2 * Math.PI, 600)).toBe(1e-6);
  });
});

describe('the plenum', () => {
  it('at rest is the air outside, and nothing passes its throttle', () => {
    const { of, lay } = built(FOUR);
    const plenum = new Plenum(of, lay, of.plenum_m3!);
    plenum.start();
    plenum.halfOn(1e-5);
    expect(plenum.p).toBeCloseTo(of.pa, 6);
    expect(plenum.T).toBeCloseTo(of.Tin, 9);
    expect(Math.abs(plenum.step(1e-5))).toBeLessThan(1e-6);
  });

  it('what the runners draw out of it lowers it, and the throttle fills it up: what flows is what it holds more or less', () => {
    const { of, lay } = built(FOUR);
    // Thinner gas in the runners draws.
    for (const line of lay.runners) for (let d = line.from; d <= line.to; d += 1) lay.ducts.fill(d, 0.8 * of.pa, of.Tin);
    const plenum = new Plenum(of, lay, of.plenum_m3!);
    plenum.start();
    const dt = 1e-5;
    let mass = (of.pa * of.plenum_m3!) / (R_GAS * of.Tin);
    let throttle = 0;
    for (let i = 0; i < 20; i += 1) {
      lay.ducts.prepare(dt);
      plenum.halfOn(dt);
      let drawn = 0;
      for (const { from } of lay.runners) {
        plenum.mouth(2 * from);
        drawn += lay.ducts.ends[2 * from]!.massFlow;
      }
      throttle = plenum.step(dt);
      mass += (throttle + drawn) * dt;
    }
    plenum.halfOn(0);
    expect(plenum.p).toBeLessThan(of.pa);
    expect(throttle).toBeGreaterThan(0);
    // m = p·V/(R·T), with the energy it has kept.
    expect((plenum.p * of.plenum_m3!) / (R_GAS * plenum.T)).toBeCloseTo(mass, 12);
    expect(C_V * plenum.T * mass).toBeCloseTo((plenum.p * of.plenum_m3!) / 0.4, 6);
  });
});

describe('the record of a cycle', () => {
  const ran = (flow: (angle: number) => number, engine = FOUR) => {
    const { of, lay } = built(engine);
    const record = new CycleRecord(lay, new Cylinders(of, lay).inletArea_m2);
    record.begin();
    const steps = 900;
    for (let i = 0; i < steps; i += 1) {
      const half = ((i + 0.5) / steps) * CYCLE_rad;
      record.add(half, 1e-5, flow(half), 95_000);
    }
    record.end();
    return { record, told: record.told(null), lay };
  };

  it('of an even flow has no peak over its mean and nothing that comes back', () => {
    const { record, told } = ran(() => 0.1);
    expect(record.throttle_kg).toBeCloseTo(900 * 1e-5 * 0.1, 12);
    expect(told).toMatchObject({ peakFlow_kgps: 0.1, reversedShare: 0 });
    expect(told.peakToMean).toBeCloseTo(1, 9);
    expect(told.plenum_Pa).toBeCloseTo(95_000, 6);
  });

  it('tells where along the runner each of its cells is, over all the pieces it has', () => {
    const { told, lay } = ran(() => 0.1, {
      ...FOUR,
      runner: { segments: [straight(0.2, 0.038), straight(0.11, 0.034), straight(0.04, 0.032)] },
    });
    const places = [...told.picture.places_m];
    // Pieces of 200, 110 and 40 mm in 12, 8 and 8 cells: the middle of each, counted on from piece to piece.
    const cells = (from: number, length: number, n: number) => Array.from({ length: n }, (_, i) => from + ((i + 0.5) * length) / n);
    const expected = [...cells(0, 0.2, 12), ...cells(0.2, 0.11, 8), ...cells(0.31, 0.04, 8)];
    expect(lay.runners[0]).toEqual({ from: 0, to: 2 });
    expect(places).toHaveLength(expected.length);
    expected.forEach((x, i) => expect(places[i]).toBeCloseTo(x, 9));
  });

  it('tells the share that comes back of what went in, and closes on itself', () => {
    // In for three quarters at 0.2, back for one at 0.1: 1/6 of what went in.
    const { told } = ran((a) => (a < 0.75 * CYCLE_rad ? 0.2 : -0.1));
    expect(told.reversedShare).toBeCloseTo(1 / 6, 2);
    const { throttle_kgps, plenum_Pa } = told.curves;
    expect(throttle_kgps).toHaveLength(ROWS + 1);
    expect(throttle_kgps[ROWS]).toBe(throttle_kgps[0]);
    expect([...plenum_Pa].every((p) => p === 95_000)).toBe(true);
  });

  it('has the pressure of every cell of the first runner in every row, from its mouth on', () => {
    const { told, lay } = ran(() => 0);
    const { places_m, p_Pa } = told.picture;
    expect(p_Pa).toHaveLength((ROWS + 1) * places_m.length);
    expect([...places_m]).toEqual([...places_m].sort((a, b) => a - b));
    expect(places_m.at(-1)).toBeLessThan(0.3);
    expect([...p_Pa].every((p) => Math.abs(p - 100_000) < 1)).toBe(true);
    expect(places_m.length).toBe(lay.ducts.first[lay.runners[0]!.to + 1]! - lay.ducts.first[lay.runners[0]!.from]!);
  });
});
