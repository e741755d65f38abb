import type { SideComparison, Stretch } from '../compare/sides';
import type { StoredRun } from '../documents/run';
import { isFailure } from '../failure';
import { correctionFactor, type CorrectionMethod } from '../runs/correction';
import { step, term, type Working } from './working';

/** How the mean difference over a stretch came about, and what its interval rests on. */
export function stretchWorking(c: SideComparison, s: Stretch, name: string): Working {
  const { estimate } = s;
  return {
    title: `Mean difference, ${name}`,
    steps: [
      step(
        'meanDifference',
        [
          term('N_1', 'from', s.from_rpm, 'rpm'),
          term('N_2', 'to', s.to_rpm, 'rpm'),
          term(String.raw`\overline{A}`, 'stock, mean power', s.a_W, 'power'),
          term(String.raw`\overline{B-A}`, 'difference, mean', s.b_W - s.a_W, 'power'),
        ],
        term(String.raw`\bar d`, 'difference of the plain means', s.b_W / s.a_W - 1, 'fineShare'),
      ),
      ...(estimate
        ? [
            step(
              'effectInterval',
              [
                term('d', 'effect of the side', estimate.difference / 100, 'fineShare'),
                term('s_d', 'its standard error', estimate.standardError / 100, 'fineShare'),
                term(String.raw`\nu`, 'degrees of freedom', estimate.df, 'ratio'),
              ],
              term(String.raw`\pm`, 'half of the 95 % interval', (estimate.high - estimate.low) / 200, 'fineShare'),
            ),
          ]
        : []),
    ],
    notes: [
      `Every run is brought to one ${c.fwhm_rpm === 0 ? '25 rpm grid, unsmoothed' : `25 rpm grid, smoothed by a Gaussian ${c.fwhm_rpm} rpm wide (local straight line)`}, never beyond its own ends.`,
      ...(estimate ? [METHOD_NOTES[estimate.method]] : ['With one run on a side there is no interval.']),
      ...(estimate?.permutation
        ? [
            `Permutation check: of ${estimate.permutation.splits.toLocaleString('en-US')} ways to deal these runs to the two sides, a share of ${estimate.permutation.p.toFixed(3)} shows at least as much.`,
          ]
        : []),
    ],
  };
}

const METHOD_NOTES = {
  means: 'Difference of the side means; interval by Welch’s t, each side with its own scatter.',
  drift: 'Side and run order fitted together by least squares: a day that drifts is not taken for the part, and the interval pays for it.',
  visits: 'Side and visit fitted together by least squares: each day is compared with itself.',
  'visits and drift': 'Side, visit and run order fitted together by least squares.',
} as const;

/** What noise alone could do, and where the scatter comes from. */
export function noiseWorking(c: SideComparison): Working {
  const from = c.noiseDf === null ? 'assumed' : 'computed';
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
      c.noiseDf === null
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
