import type { JobFindings } from '@/core/verdict/findings';
import type { RankedVerdict } from '@/core/job/ranking';
import { failureText } from '@/ui/answer/words';
import { boardLine, stopLine } from './finding-text';

const findings: JobFindings = {
  stops: [
    { stop: 'car', state: 'settled', displacement_m3: 0.0029, cylinders: 6, bore_m: 0.058, control: 'cable' },
    { stop: 'air', state: 'settled', givesOut_rpm: 5268, left_pct: 2.6, failed: null },
    { stop: 'pick', state: 'settled', name: 'Fenwick 66', gain_pct: 1.94, chosen: true },
    { stop: 'fit', state: 'settled', overhang_m: 0.004, tooFar: false },
    { stop: 'install', state: 'started', steps: 16, gates: 3 },
    { stop: 'test', state: 'settled', runsA: 3, runsB: 2, best_pct: 1.3, noise_pct: 0.7, kind: 'gain' },
    { stop: 'verdict', state: 'settled', predicted_pct: 1.9, measured_pct: 1.2, noise_pct: 0.7 },
  ],
};
const only = (stop: JobFindings['stops'][number]): JobFindings => ({ stops: [stop] });

it('says each stop in one line, in the reader’s units', () => {
  expect(stopLine(findings, 'car', 'metric')!.line).toBe('2.9 L, 6 cylinders, 58 mm cable');
  expect(stopLine(findings, 'car', 'us')!.line).toBe('177 in³, 6 cylinders, 58 mm cable');
  expect(stopLine(findings, 'air', 'metric')!.line).toBe('stock runs short from 5,270');
  expect(stopLine(findings, 'pick', 'metric')!.line).toBe('Fenwick 66 chosen, +1.9 %');
  expect(stopLine(findings, 'fit', 'metric')!.line).toBe('manifold to bore by 8.0 mm across');
  expect(stopLine(findings, 'install', 'metric')!.line).toBe('16 steps, 3 checks before the start');
  expect(stopLine(findings, 'test', 'metric')!.line).toBe('gain, +1.3 %');
  expect(stopLine({ stops: [] }, 'air', 'metric')).toBeNull();
});

it('the board shows the furthest stop that has something to say', () => {
  expect(boardLine(findings, 'metric')).toBe('+1.2 % measured at peak, +1.9 % predicted.');
  expect(boardLine(only({ stop: 'air', state: 'settled', givesOut_rpm: null, left_pct: 0.1, failed: null }), 'metric')).toBe(
    'Stock is enough to redline.',
  );
  expect(boardLine({ stops: [] }, 'metric')).toBe('Nothing entered yet.');
});

it('has a line for unfinished and failed stops too', () => {
  const line = (stop: JobFindings['stops'][number]) => stopLine(only(stop), stop.stop, 'metric')!.line;
  expect(line({ stop: 'air', state: 'needs a look', givesOut_rpm: null, left_pct: null, failed: 'choked' })).toBe('cannot be solved yet');
  expect(line({ stop: 'pick', state: 'empty', name: null, gain_pct: null, chosen: false })).toBe('nothing on show yet');
  expect(line({ stop: 'fit', state: 'needs a look', overhang_m: 0.004, tooFar: true })).toMatch(/does not fit/);
  expect(line({ stop: 'fit', state: 'needs a look', overhang_m: 0.004, tooFar: false, ruledOut: 'Signal family', needs: 2 })).toBe(
    'does not fit: signal family',
  );
  expect(line({ stop: 'fit', state: 'needs a look', overhang_m: 0.004, tooFar: false, ruledOut: null, needs: 2 })).toBe(
    '2 things needed to put it on',
  );
  const install = { stop: 'install', state: 'started', steps: 35, gates: 6 } as const;
  expect(line({ ...install, left: 0 })).toBe('on, every step done and check passed');
  expect(line({ ...install, left: 9, started: true })).toBe('9 steps left, first start made');
  expect(line({ ...install, left: 1, started: false })).toBe('1 step left, not started yet');
  expect(line({ ...install, left: 35, started: false })).toBe('35 steps, 6 checks before the start');
  expect(line({ stop: 'fit', state: 'settled', overhang_m: -0.001, tooFar: false })).toBe('manifold is wide enough');
  expect(line({ stop: 'fit', state: 'empty', overhang_m: null, tooFar: false })).toBe('no throttle body chosen');
  expect(line({ stop: 'test', state: 'empty', runsA: 0, runsB: 0, best_pct: null, noise_pct: null, kind: null })).toBe('no runs yet');
  expect(line({ stop: 'test', state: 'started', runsA: 1, runsB: 0, best_pct: null, noise_pct: null, kind: null })).toBe(
    '1 run, one side missing',
  );
  expect(line({ stop: 'test', state: 'settled', runsA: 1, runsB: 1, best_pct: 1, noise_pct: 2, kind: "can't tell yet" })).toBe(
    'can’t tell yet, +1.0 % so far',
  );
  expect(line({ stop: 'verdict', state: 'empty', predicted_pct: 1, measured_pct: null, noise_pct: null })).toBe('waits for a test');
});

it('every failure has a sentence a tuner can act on', () => {
  expect(failureText({ error: 'choked', side: 'candidate', where: 'Unit 28', at_rpm: 7204 }, 'metric')).toMatch(
    /With Unit 28 the intake chokes at 7,200 rpm/,
  );
  expect(failureText({ error: 'pressure_out_of_range' }, 'us')).toMatch(/inHg/);
  expect(failureText({ error: 'temperature_out_of_range' }, 'metric')).toMatch(/°C/);
  expect(failureText({ error: 'humidity_out_of_range' }, 'metric')).toMatch(/0 to 100/);
  expect(failureText({ error: 'bad_geometry', where: 'pipe', reason: 'bend_too_tight' }, 'metric')).toBe(
    'pipe: this cannot be built: a bend is tighter than half its bore.',
  );
  expect(failureText({ error: 'blocked', where: 'a>b' }, 'metric')).toMatch(/offset/);
  expect(failureText({ error: 'no_sweep' }, 'metric')).toMatch(/engine speed/i);
  expect(failureText({ error: 'no_sweep', reason: 'throttle_never_open' }, 'metric')).toMatch(/95 %/);
  expect(failureText({ error: 'bad_input', reason: 'no_rpm_channel' }, 'metric')).toMatch(/engine speed/);
  expect(failureText({ error: 'bad_input', reason: 'no_power_channel' }, 'metric')).toMatch(/power or torque/);
  expect(failureText({ error: 'no_common_range' }, 'metric')).toMatch(/in common/);
  expect(failureText({ error: 'no_common_range', reason: 'beyond_range', facts: { from_rpm: 2000, to_rpm: 6800 } }, 'metric')).toMatch(
    /^The runs share 2,000 to 6,800 rpm, and the range that is set leaves nothing of it/,
  );
  expect(failureText({ error: 'no_idle' }, 'metric')).toMatch(/leak more air than any idle needs/);
  expect(failureText({ error: 'no_blower_solution', at_rpm: 3204 }, 'metric')).toMatch(/^At 3,200 rpm the blower cannot/);
  expect(failureText({ error: 'no_boost' }, 'metric')).toMatch(/^Here the compressor would have to work backwards/);
  expect(failureText({ error: 'no_pulley' }, 'metric')).toMatch(/No pulley makes this boost/);
  expect(failureText({ error: 'bench_above_ceiling', where: 'Unit 9' }, 'metric')).toMatch(/^Unit 9: the bench figure is above/);
  expect(failureText({ error: 'no_bore' }, 'metric')).toMatch(/250.0 mm/);
  expect(failureText({ error: 'no_opening' }, 'metric')).toMatch(/opening/);
  expect(failureText({ error: 'too_few_runs' }, 'metric')).toMatch(/Two runs a side/);
});

describe('what a job came to', () => {
  const line = (more: object): string =>
    boardLine(
      {
        stops: [
          {
            stop: 'verdict',
            state: 'settled',
            predicted_pct: 1.9,
            measured_pct: 1.6,
            noise_pct: 0.5,
            strip: null,
            decides_pct: 1.1,
            ...more,
          },
        ],
      },
      'metric',
    );

  it('is said with what it rests on, and never with a figure of an unfair comparison', () => {
    expect(line({ word: 'keep' })).toBe('Keep it: +1.1 % where it decides.');
    expect(line({ word: 'more', unfair: true })).toBe('Test more: not a fair comparison.');
    expect(line({ word: 'back', measured_pct: null, decides_pct: null, strip: { word: 'no difference that matters', passes: 16 } })).toBe(
      'Go back to stock: no difference that matters at the strip.',
    );
    expect(line({ word: 'fix' })).toMatch(/^Keep it, but put something right/);
  });

  it('of an older finding is told as it was', () => {
    expect(line({})).toBe('+1.6 % measured at peak, +1.9 % predicted.');
    expect(line({ measured_pct: null })).toBe('Waits for a test.');
  });
});

it('the spine never recommends what Pick does not', () => {
  const pick = (word: RankedVerdict, chosen = false): string =>
    stopLine(only({ stop: 'pick', state: 'started', name: 'Fenwick 66', gain_pct: 5.5, chosen, word }), 'pick', 'metric')!.line;
  expect(pick('worth buying')).toBe('Fenwick 66 leads, +5.5 %');
  expect(pick('measure the gap')).toBe('Fenwick 66 leads, +5.5 %: measure the gap');
  expect(pick('too big for its manners')).toBe('nothing on show suits: Fenwick 66 is too touchy off idle');
  expect(pick('does not fit')).toBe('nothing on show suits: Fenwick 66 does not fit');
  expect(pick('not the restriction')).toMatch(/^leave it alone/);
  expect(pick('costs power')).toMatch(/^nothing on show is larger/);
  expect(pick('chokes')).toBe('Fenwick 66 cannot be solved');
  expect(pick('does not fit', true)).toBe('Fenwick 66 chosen, +5.5 %: does not fit');
});
