import { stripOf } from '../../../test/facts';
import { isFailure, must } from '../failure';
import type { Trace } from '../logs/trace';
import { roadRuns, type RoadWindow } from '../strip/road';
import { FORMULAS } from './formulas';
import {
  densityAltitudeWorking,
  passPowerWorking,
  powerShareWorking,
  roadWorking,
  stripCorrectionWorking,
  stripEffectWorking,
} from './strip-working';
import type { Working } from './working';

const POUND_kg = 0.45359237;
const MPH = 0.44704;
const HP_W = 745.69987158;
const analysis = stripOf(10, 0.05);
const pass = analysis.passes[0]!;
const effects = { trap: must(analysis.effects.trap_mps), et: must(analysis.effects.et_s) };

const valueOf = (w: Working, label: string): number => {
  const found = w.steps.flatMap((s) => [...s.terms, s.result]).find((t) => t.label === label);
  if (!found) throw new Error(`no term ${label} in ${w.title}`);
  return found.value;
};
const lastOf = (w: Working): number => w.steps.at(-1)!.result.value;

it('names a formula that exists, and shows no figure that is none, in every step', () => {
  const all = [
    stripCorrectionWorking(pass),
    passPowerWorking(pass, 1500),
    stripEffectWorking(effects.trap, 'Effect', 'roadSpeed', []),
    densityAltitudeWorking(pass.weather!.reading),
    powerShareWorking('speed', effects.trap, analysis.powerBySpeed!),
    powerShareWorking('time', effects.et, analysis.powerByTime!),
  ];
  for (const w of all) {
    expect(w.steps.length).toBeGreaterThan(0);
    for (const s of w.steps) {
      expect(FORMULAS[s.formula]).toBeDefined();
      for (const t of [...s.terms, s.result]) expect(Number.isFinite(t.value)).toBe(true);
    }
  }
});

it('brings a pass to the reference air by the factor it shows: the time by its third root, the speed against it', () => {
  const w = stripCorrectionWorking(pass);
  const f = valueOf(w, 'factor for power');
  const [, time, speed] = w.steps;
  expect(time!.result.value).toBeCloseTo(pass.et_s! * Math.cbrt(1 / f), 9);
  expect(speed!.result.value).toBeCloseTo(pass.trap_mps! * Math.cbrt(f), 9);
  expect(time!.result.value).toBe(pass.corrected!.et_s);
});

it('takes power from the speed and from the time by the trade’s own relations, in its own units', () => {
  const w = passPowerWorking(pass, 1500);
  const lb = 1500 / POUND_kg;
  expect(valueOf(w, 'power by speed')).toBeCloseTo(lb * (pass.trap_mps! / MPH / 234) ** 3 * HP_W, 3);
  expect(valueOf(w, 'power by time')).toBeCloseTo((lb / (pass.et_s! / 5.825) ** 3) * HP_W, 3);
});

it('says of the effect what it rests on, sizes measured or assumed', () => {
  const w = stripEffectWorking(effects.trap, 'Effect on the trap speed', 'roadSpeed', ['The air stands beside the side.']);
  const { answer } = effects.trap;
  expect(2 * lastOf(w)).toBeCloseTo(answer.high - answer.low, 12);
  expect(valueOf(w, 'a swap moves it by')).toBe(answer.sizes.refit.sd);
  expect(w.notes[0]).toBe('The air stands beside the side.');
});

it('turns a change of speed into three times the change of power, and of time into as much the other way', () => {
  const speed = powerShareWorking('speed', effects.trap, analysis.powerBySpeed!);
  expect(lastOf(speed)).toBeCloseTo(3 * (effects.trap.answer.estimate / effects.trap.meanA), 2);
  const time = powerShareWorking('time', effects.et, analysis.powerByTime!);
  expect(Math.sign(lastOf(time))).toBe(-Math.sign(effects.et.answer.estimate));
});

it('finds the standard air at no altitude, and says of air that cannot be that it cannot', () => {
  const dry = densityAltitudeWorking({ p_Pa: 101_325, T_K: 288.15, rh: 0 });
  expect(Math.abs(lastOf(dry))).toBeLessThan(1);
  const damp = densityAltitudeWorking({ p_Pa: 101_325, T_K: 303.15, rh: 0.8 });
  expect(lastOf(damp)).toBeGreaterThan(500);
  const none = densityAltitudeWorking({ p_Pa: 101_325, T_K: 900, rh: 0 });
  expect(none.steps).toHaveLength(0);
  expect(none.notes).toEqual(['This air cannot be.']);
});

describe('a run on the road', () => {
  const time_s = Float64Array.from({ length: 401 }, (_, i) => i / 20);
  const speed: Trace = { time_s, value: time_s.map((t) => 20 + 2 * t) };
  const WINDOW: RoadWindow = { from_mps: 25, to_mps: 45, rollout_m: 0.3, grade: null, wind_mps: 2 };
  const run = (grade: number | null) => {
    const found = roadRuns(speed, null, { ...WINDOW, grade });
    if (isFailure(found)) throw new Error(found.error);
    return found[0]!;
  };

  it('of unknown ground shows only what is not known, and its squares add up', () => {
    const w = roadWorking(run(null), WINDOW);
    expect(w.steps.map((s) => s.formula)).toEqual(['roadError']);
    const squares = w.steps[0]!.terms.reduce((s, t) => s + t.value ** 2, 0);
    expect(lastOf(w)).toBeCloseTo(Math.sqrt(squares), 12);
    expect(w.notes[0]).toMatch(/^The ground is not known/);
  });

  it('of an entered grade takes the climb’s energy out of the time', () => {
    const r = run(0.01);
    const w = roadWorking(r, { ...WINDOW, grade: 0.01 });
    expect(w.steps.map((s) => s.formula)).toEqual(['roadFlat', 'roadError']);
    const kinetic = (45 ** 2 - 25 ** 2) / 2;
    expect(valueOf(w, 'on the flat')).toBeCloseTo((r.time_s * kinetic) / (kinetic + 9.80665 * r.climb_m!), 6);
    expect(w.notes[0]).toMatch(/^An entered grade/);
  });
});
