import type { SideComparison } from '../compare/sides';
import type { StoredRun } from '../documents/run';
import { isFailure } from '../failure';
import { correctionFactor, type CorrectionMethod } from '../runs/correction';
import { step, term, type Working } from './working';

const THIRD_NAMES = ['bottom', 'middle', 'top'] as const;

/** Mean of the curves' values whose grid rpm lies in a third. */
function thirdMeans(c: SideComparison, third: number): { a: number; from: number; to: number } {
  const lo = c.grid_rpm[0]!;
  const hi = c.grid_rpm.at(-1)!;
  const from = lo + ((hi - lo) * third) / 3;
  const to = lo + ((hi - lo) * (third + 1)) / 3;
  const inside = c.a_W.filter((_, i) => c.grid_rpm[i]! >= from && (c.grid_rpm[i]! < to || third === 2));
  return { a: inside.reduce((s, v) => s + v, 0) / inside.length, from, to };
}

/** How the mean difference of a third came about. */
export function thirdWorking(c: SideComparison, third: 0 | 1 | 2, fwhm_rpm: number): Working {
  const { a, from, to } = thirdMeans(c, third);
  return {
    title: `Mean difference, ${THIRD_NAMES[third]} third`,
    steps: [
      step(
        'meanDifference',
        [
          term('N_1', 'from', from, 'rpm'),
          term('N_2', 'to', to, 'rpm'),
          term(String.raw`\overline{A}`, 'stock, mean power', a, 'power'),
          term(String.raw`\overline{B-A}`, 'difference, mean', c.bandMean_W[third]!, 'power'),
        ],
        term(String.raw`\bar d`, 'mean difference', c.bandMean_pct[third]! / 100, 'fineShare'),
      ),
    ],
    notes: [
      `Both sides on one 25 rpm grid, ${fwhm_rpm === 0 ? 'unsmoothed' : `smoothed by one Gaussian ${fwhm_rpm} rpm wide (local straight line)`}, never beyond a run’s own ends.`,
    ],
  };
}

/** What noise alone could do, and where the scatter comes from. */
export function noiseWorking(c: SideComparison): Working {
  const from = c.noiseAssumed ? 'assumed' : 'computed';
  return {
    title: 'What noise alone could do',
    steps: [
      step(
        'noise',
        [
          term('s', 'scatter of single runs', c.noiseSd_pct / 100, 'fineShare', from),
          term('n_A', 'stock runs', c.runsA, 'count', 'computed'),
          term('n_B', 'new runs', c.runsB, 'count', 'computed'),
        ],
        term(String.raw`\pm`, '95 % of differences by noise alone', c.noise_pct / 100, 'fineShare'),
      ),
    ],
    notes: [
      c.noiseAssumed
        ? 'No side has been repeated, so the scatter is an assumption. Repeat each side and it is measured.'
        : 'Scatter pooled from the repeated runs of each side.',
    ],
  };
}

/** How a run's figures were brought to the comparison's correction. */
export function correctionWorking(run: StoredRun, to: CorrectionMethod): Working {
  const { weather, carried } = run.doc;
  if (!weather || carried === 'unknown')
    return {
      title: `Correction of ${run.doc.name}`,
      steps: [],
      notes: ['Left as it is: the weather or the file’s own correction is not known.'],
    };
  const undo = correctionFactor(carried, weather);
  const apply = correctionFactor(to, weather);
  if (isFailure(undo) || isFailure(apply))
    return { title: `Correction of ${run.doc.name}`, steps: [], notes: ['The weather is outside what can be.'] };
  return {
    title: `Correction of ${run.doc.name}`,
    steps: [
      step(
        'correction',
        [
          term('p', 'barometer', weather.p_Pa, 'barometer', 'entered'),
          term('T', 'air temperature', weather.T_K, 'temperature', 'entered'),
          term(String.raw`\varphi`, 'humidity', weather.rh, 'share', 'entered'),
          term(String.raw`f_\mathrm{from}`, `factor it carried (${carried})`, undo.factor, 'coefficient'),
          term(String.raw`f_\mathrm{to}`, `factor of ${to}`, apply.factor, 'coefficient'),
        ],
        term('P_c/P', 'figures multiplied by', apply.factor / undo.factor, 'coefficient'),
      ),
    ],
    notes: [],
  };
}

/** Peak power at the comparison's smoothing and as measured. */
export function peakWorking(c: SideComparison): Working {
  const gain = c.peakB.smoothed_W / c.peakA.smoothed_W - 1;
  return {
    title: 'Peak against peak',
    steps: [
      step(
        'gain',
        [term('P', 'peak, stock', c.peakA.smoothed_W, 'power'), term("P'", 'peak, new', c.peakB.smoothed_W, 'power')],
        term('g', 'difference at peak', gain, 'fineShare'),
      ),
    ],
    notes: ['Both at the same smoothing. An unsmoothed peak set against a smoothed one is the commonest false gain.'],
  };
}
