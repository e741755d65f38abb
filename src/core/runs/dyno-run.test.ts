import { isFailure, must } from '../failure';
import { dynoRun, SWEEP_SAMPLES_KEPT, type RunChannel } from './dyno-run';

describe('dynoRun', () => {
  const channel = (quantity: RunChannel['map']['quantity'], unit: string | null, values: number[]): RunChannel => ({
    map: { column: 0, quantity, unit },
    values: Float64Array.from(values),
  });
  const doc = { carried: 'none' as const, weather: { p_Pa: 98_000, T_K: 300, rh: 0.4 }, coolantStart_K: null };
  const up = [1000, 2000, 3000, 4000, 3500];

  it('takes the sweep, works power from torque and applies the correction', () => {
    const run = must(dynoRun([channel('rpm', 'rpm', up), channel('torque', 'Nm', [100, 100, 100, 100, 5])], doc, 'SAE J1349'));
    expect(run.swept).toBe(4);
    expect(run.samples).toBe(5);
    expect(run.correction).toBe('SAE J1349');
    expect(run.power_W[0]).toBeCloseTo(((100 * 2 * Math.PI * 1000) / 60) * run.factor, 6);
    expect(run.factor).toBeGreaterThan(1);
  });

  it('leaves figures alone whose correction is not known, and says so', () => {
    const run = must(
      dynoRun([channel('rpm', 'rpm', up), channel('power', 'hp', [1, 2, 3, 4, 0])], { ...doc, carried: 'unknown' }, 'SAE J1349'),
    );
    expect(run).toMatchObject({ factor: 1, correction: 'unknown' });
    const same = must(
      dynoRun(
        [channel('rpm', 'rpm', up), channel('power', 'hp', [1, 2, 3, 4, 0])],
        { carried: 'STD', weather: null, coolantStart_K: null },
        'STD',
      ),
    );
    expect(same).toMatchObject({ factor: 1, correction: 'STD' });
  });

  it('drops samples without both figures and reads the temperatures of the pull', () => {
    const run = must(
      dynoRun(
        [
          channel('rpm', 'rpm', [NaN, 1000, 2000, 3000]),
          channel('power', 'kW', [1, 1, NaN, 3]),
          channel('inlet air', 'C', [9, 20, 25, 30]),
          channel('coolant', 'C', [80, 85, 86, 87]),
        ],
        doc,
        'none',
      ),
    );
    expect(run.swept).toBe(2);
    expect(run.inletAirStart_K).toBeCloseTo(293.15, 6);
    expect(run.inletAirPeak_K).toBeCloseTo(303.15, 6);
    expect(run.coolantStart_K).toBeCloseTo(358.15, 6);
  });

  it('averages blocks of a very long sweep and says how many', () => {
    const n = SWEEP_SAMPLES_KEPT * 3;
    const run = must(
      dynoRun(
        [
          channel(
            'rpm',
            'rpm',
            Array.from({ length: n }, (_, i) => 1000 + i * 0.3),
          ),
          channel('power', 'kW', new Array<number>(n).fill(50)),
        ],
        doc,
        'none',
      ),
    );
    expect(run.block).toBe(3);
    expect(run.rpm).toHaveLength(SWEEP_SAMPLES_KEPT);
    expect(run.power_W[7]).toBeCloseTo(50_000, 6);
  });

  it('says which channel is missing', () => {
    expect(dynoRun([channel('power', 'kW', [1])], doc, 'none')).toMatchObject({ reason: 'no_rpm_channel' });
    expect(dynoRun([channel('rpm', 'rpm', up)], doc, 'none')).toMatchObject({ reason: 'no_power_channel' });
    expect(
      isFailure(dynoRun([channel('rpm', 'rpm', up), channel('power', 'kW', up), channel('throttle', 'pct', [1, 1, 1, 1, 1])], doc, 'none')),
    ).toBe(true);
  });

  it.each([
    ['rpm', 'rpm_unit_unknown', [channel('rpm', null, up), channel('power', 'kW', up)]],
    ['power', 'power_unit_unknown', [channel('rpm', 'rpm', up), channel('power', null, up), channel('torque', 'Nm', up)]],
    ['torque', 'torque_unit_unknown', [channel('rpm', 'rpm', up), channel('torque', null, up)]],
    ['nothing but engine speed', 'no_power_channel', [channel('rpm', 'rpm', up), channel('boost', null, up)]],
    ['power, where only a torque is left unsaid', 'no_rpm_channel', [channel('torque', null, up), channel('power', 'kW', up)]],
  ] as const)('says in whose unit nobody has said: %s', (_, reason, channels) => {
    expect(dynoRun(channels, doc, 'none')).toMatchObject({ reason });
  });

  it('takes power where both are there and one of them is in a unit nobody has said', () => {
    const run = must(
      dynoRun([channel('rpm', 'rpm', up), channel('power', 'kW', [1, 2, 3, 4, 0]), channel('torque', null, up)], doc, 'none'),
    );
    expect(Array.from(run.power_W)).toEqual([1000, 2000, 3000, 4000]);
  });
});
