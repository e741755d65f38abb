import { blipsOf, cycleReports, idleAlarm, idleVerdict, type RelearnPlan, type RpmSample } from '../install/relearn';
import { sensorCheck, tracksPlausible } from '../install/sensor';
import { TACHOMETER_RATE_Hz, tachometerReadings, type TachometerCase } from './tachometer';
import { VOLTMETER_RATE_Hz, voltmeterReadings, type VoltmeterReading, type VoltmeterSettings } from './voltmeter';

const BAND = [650, 850] as const;
function idle(kind: TachometerCase, from_s: number, to_s: number, seed = 3): RpmSample[] {
  const out: RpmSample[] = [];
  for (const { t_s, rpm } of tachometerReadings({ band_rpm: BAND, case: kind, seed })) {
    if (t_s > to_s) break;
    if (t_s >= from_s) out.push({ at_ms: t_s * 1000, rpm });
  }
  return out;
}

describe('the tachometer stand-in', () => {
  it('is the same for a seed and another for the next', () => {
    expect(idle('sound', 0, 30, 1)).toEqual(idle('sound', 0, 30, 1));
    expect(idle('sound', 0, 30, 1)).not.toEqual(idle('sound', 0, 30, 2));
    expect(idle('sound', 0, 10)).toHaveLength(10 * TACHOMETER_RATE_Hz + 1);
  });

  it.each([1, 2, 3, 4, 5, 6])('a sound engine of seed %i is steady when warm, and comes back from a blip', (seed) => {
    expect(idleVerdict(idle('sound', 110, 118, seed), BAND)).toBe('steady');
    const blips = blipsOf(idle('sound', 60, 190, seed), BAND);
    expect(blips).toHaveLength(3);
    for (const b of blips) expect(b.back_s).toBeLessThan(6);
  });

  it.each([1, 2, 3, 4])('a sticking one of seed %i does not come back and climbs: an alarm', (seed) => {
    expect(blipsOf(idle('sticking throttle', 60, 190, seed), BAND).every((b) => b.back_s === null)).toBe(true);
    expect(idleVerdict(idle('sticking throttle', 90, 118, seed), BAND)).toBe('climbing');
  });

  it.each([1, 2, 3, 4])('a hunting one of seed %i hunts', (seed) => {
    expect(idleVerdict(idle('hunting idle', 90, 119, seed), BAND)).toBe('hunting');
  });
});

describe('what the screen makes of it', () => {
  const plan: RelearnPlan = { cycles: 3, run_s: 180, rest_s: 120, band_rpm: BAND };
  const run = (kind: TachometerCase, seed: number) =>
    cycleReports(
      plan,
      [
        { type: 'engine on', at_ms: 0 },
        ...idle(kind, 0, 185, seed).map((s) => ({ type: 'rpm' as const, ...s })),
        { type: 'engine off', at_ms: 185_000 },
      ],
      400_000,
    )[0]!;

  it.each([1, 2, 3, 4, 5])(
    'a sound run of seed %i: steady, in its band, four blips, each with its way back, and never an alarm',
    (seed) => {
      const r = run('sound', seed);
      expect(r).toMatchObject({ longEnough: true, idle: 'steady' });
      expect(r.mean_rpm).toBeGreaterThan(BAND[0]);
      expect(r.mean_rpm).toBeLessThan(BAND[1]);
      expect(r.blips.filter((b) => b.peak_rpm > 1800)).toHaveLength(4);
      for (let to = 30; to <= 185; to += 5) expect([to, idleAlarm(idle('sound', 0, to, seed), BAND)]).toEqual([to, null]);
    },
  );

  it.each([1, 2, 3])('a sticking throttle of seed %i is an alarm within ten seconds of its first blip', (seed) => {
    expect(idleAlarm(idle('sticking throttle', 0, 39, seed), BAND)).toBeNull();
    expect(idleAlarm(idle('sticking throttle', 0, 51, seed), BAND)).toBe('not back');
  });

  it.each([1, 2, 3])('a hunting idle of seed %i is an alarm', (seed) => {
    expect(idleAlarm(idle('hunting idle', 60, 79.9, seed), BAND)).toBe('hunting');
    expect(run('hunting idle', seed).idle).toBe('hunting');
  });

  it('a run cut short is said to be', () => {
    const cut = cycleReports(
      plan,
      [
        { type: 'engine on', at_ms: 0 },
        { type: 'engine off', at_ms: 60_000 },
      ],
      400_000,
    );
    expect(cut).toEqual([{ from_ms: 0, to_ms: 60_000, longEnough: false, blips: [], idle: 'too few readings', mean_rpm: null }]);
  });
});

describe('the voltmeter stand-in', () => {
  const settings: VoltmeterSettings = { closed_V: 0.52, full_V: 4.43, position: 'shut', case: 'sound', seed: 4 };
  function read(more: Partial<VoltmeterSettings>, seconds = 10): VoltmeterReading[] {
    const out: VoltmeterReading[] = [];
    for (const r of voltmeterReadings({ ...settings, ...more })) {
      if (r.t_s > seconds) return out;
      out.push(r);
    }
    return out;
  }
  const mean = (list: VoltmeterReading[], track: 'a_V' | 'b_V' = 'a_V'): number => list.reduce((s, r) => s + r[track], 0) / list.length;

  it('reads five times a second, the same for a seed', () => {
    expect(read({})).toEqual(read({}));
    expect(read({}, 4)).toHaveLength(4 * VOLTMETER_RATE_Hz + 1);
  });

  it.each([1, 2, 3, 4, 5])('a sound sensor of seed %i stays in the window, shut and full, and its tracks make the supply', (seed) => {
    const pair = { closed_V: mean(read({ seed })), full_V: mean(read({ seed, position: 'full' })) };
    expect(['matched', 'turn it']).toContain(sensorCheck(pair, { closed_V: 0.52, full_V: 4.43 }).verdict);
    expect(tracksPlausible({ a_V: pair.closed_V, b_V: mean(read({ seed }), 'b_V') })).toBe('plausible');
  });

  it('let go, it is open for one second of three', () => {
    const open = read({ position: 'let go' }, 29.8).filter((r) => r.a_V > 2).length;
    expect(open / (30 * VOLTMETER_RATE_Hz)).toBeCloseTo(1 / 3, 2);
  });

  it('a sensor sits off either way, never by more than two of its seats, and rarely by the same', () => {
    const off = Array.from({ length: 60 }, (_, seed) => mean(read({ seed }, 4)) - settings.closed_V);
    expect(Math.max(...off)).toBeGreaterThan(0.05);
    expect(Math.min(...off)).toBeLessThan(-0.05);
    for (const v of off) expect(Math.abs(v)).toBeLessThan(0.14 + 0.003);
    expect(new Set(off.map((v) => v.toFixed(4))).size).toBeGreaterThan(50);
  });

  it('let go, a sound blade falls shut to the same volts each time, a sticking one stays open elsewhere', () => {
    const rests = (kind: VoltmeterSettings['case']): number[] =>
      read({ case: kind, position: 'let go' }, 30)
        .filter((r) => r.a_V < 2)
        .map((r) => r.a_V);
    const spread = (list: number[]): number => Math.max(...list) - Math.min(...list);
    expect(spread(rests('sound'))).toBeLessThan(0.03);
    expect(spread(rests('sticking throttle'))).toBeGreaterThan(0.04);
    expect(Math.min(...rests('sticking throttle'))).toBeGreaterThan(Math.max(...rests('sound')));
  });

  it('a wrong sensor reads less open than shut, and its tracks disagree', () => {
    const shut = read({ case: 'wrong sensor' });
    const pair = { closed_V: mean(shut), full_V: mean(read({ case: 'wrong sensor', position: 'full' })) };
    expect(sensorCheck(pair, { closed_V: 0.52, full_V: 4.43 }).verdict).toBe('fault');
    expect(tracksPlausible({ a_V: pair.closed_V, b_V: mean(shut, 'b_V') })).toBe('disagree');
  });
});
