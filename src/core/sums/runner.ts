import { waveModel } from '../waves/engine';
import { helmholtzBest_rpm, runnerRules } from '../waves/rules';
import { bottleSpeed, CREST_PAST, crestSpeed, runnerSteps } from '../working/wave-working';
import { number, type Sum } from './sum';

const DEGREE = Math.PI / 180;
/** Speeds at which the model is asked, over this share of Helmholtz' speed either way. A coarse grid: a peak is wanted, no level. */
const SPEEDS = 13;
const SPAN = 0.45;
const CELL_m = 0.036;
/** The ripple is smoothed over so many neighbours before the hill's top is read. */
const RIPPLE = 1;
const MOST_rpm = 20_000;

/** Speed of the hill of one cylinder on a straight runner by the wave model, rpm; null where none of it settles. */
function modelBest_rpm(
  runner: { length_m: number; bore_m: number; swept_m3: number; compressionRatio: number; T_K: number; duration_rad: number },
  near_rpm: number,
): number | null {
  const model = waveModel(
    {
      ambient: { T_K: runner.T_K },
      engine: {
        displacement_m3: runner.swept_m3,
        cylinders: 1,
        compressionRatio: runner.compressionRatio,
        maxRpm_rpm: near_rpm * (1 + SPAN),
      },
      inletValve: { count: 2, duration_rad: runner.duration_rad },
      exhaustValve: { count: 2, duration_rad: runner.duration_rad },
      runner: {
        segments: [{ length_m: runner.length_m, inBore_m: runner.bore_m, outBore_m: runner.bore_m }],
        mouth: { edgeRadius_m: 0.15 * runner.bore_m },
      },
    },
    { cell_m: CELL_m },
  );
  const speeds = Array.from({ length: SPEEDS }, (_, i) => near_rpm * (1 - SPAN + (2 * SPAN * i) / (SPEEDS - 1)));
  const W = speeds.map((n) => model.run(n)).map((r) => (r.settled ? r.W : NaN));
  const smooth = W.map((_, i) => {
    const around = W.slice(Math.max(0, i - RIPPLE), i + RIPPLE + 1).filter((w) => Number.isFinite(w));
    return around.length === 0 ? -Infinity : around.reduce((a, b) => a + b, 0) / around.length;
  });
  const top = smooth.reduce((best, w, i) => (w > smooth[best]! ? i : best), 0);
  if (!Number.isFinite(smooth[top]!)) return null;
  const [a, b, c] = [smooth[top - 1], smooth[top]!, smooth[top + 1]];
  if (a === undefined || c === undefined || !Number.isFinite(a) || !Number.isFinite(c) || a + c - 2 * b >= 0) return speeds[top]!;
  return speeds[top]! + ((speeds[1]! - speeds[0]!) * (a - c)) / (2 * (a - 2 * b + c));
}

export const RUNNER: Sum = {
  key: 'runner',
  title: 'Runner length',
  group: 'air',
  about: 'Where a runner tunes, by both rules of thumb and by the wave model, for one cylinder with a usual valve train.',
  fields: [
    number('L', 'Runner, mouth to valve', 'length', 0.35, [0.08, 1.2]),
    number('d', 'Runner bore', 'bore', 0.04, [0.015, 0.08]),
    number('V', 'One cylinder', 'displacement', 0.0005, [5e-5, 0.0015]),
    number('cr', 'Compression ratio', 'ratio', 10.5, [6, 16]),
    number('dur', 'Inlet duration at the seat', 'angle', 260 * DEGREE, [200 * DEGREE, 340 * DEGREE]),
    number('T', 'Air in the runner', 'temperature', 303.15, [253.15, 353.15]),
  ],
  solve({ n }) {
    const runner = {
      length_m: n['L']!,
      bore_m: n['d']!,
      swept_m3: n['V']!,
      compressionRatio: n['cr']!,
      T_K: n['T']!,
      duration_rad: n['dur']!,
    };
    const mouthed = { ...runner, mouth: { edgeRadius_m: 0.15 * runner.bore_m } };
    const { quarterWave_Hz, helmholtz_Hz } = runnerRules(mouthed);
    const bottle = bottleSpeed(mouthed);
    const model = modelBest_rpm(runner, Math.min(bottle, MOST_rpm));
    const crest = crestSpeed(quarterWave_Hz, Math.max(1, Math.round((120 * quarterWave_Hz) / bottle - CREST_PAST)));
    return {
      answer: (say) =>
        model === null
          ? `Helmholtz’ rule puts its hill near ${say(bottle, 'rpm')}; the model did not settle there.`
          : `By the model it fills best near ${say(Math.round(model / 50) * 50, 'rpm')}; Helmholtz’ rule says ${say(Math.round(bottle / 50) * 50, 'rpm')}.`,
      rows: [
        ...(model === null ? [] : [{ label: 'the wave model', value: model, measure: 'rpm' as const }]),
        { label: 'Helmholtz, by the duration', value: bottle, measure: 'rpm' },
        { label: 'Helmholtz, the classic factor 2.1', value: helmholtzBest_rpm(helmholtz_Hz, 2.1), measure: 'rpm' },
        {
          label: 'quarter wave: crest of the ripple nearest to it',
          value: crest,
          measure: 'rpm',
          note: 'moves the filling by 1 to 3 % only',
        },
      ],
      steps: runnerSteps(mouthed, crest),
      notes: [
        'A trumpet with a rounded edge, two valves of usual size, a straight runner. The quarter wave does not tell where the hill is, whatever is said of its third or fourth wave; it ripples on it.',
        'The model is computed on a coarse grid here. Tapers, plenum, cams as they are: Air, Waves, in a job.',
      ],
    };
  },
};
