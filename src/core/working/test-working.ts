import { permutationTest } from '../compare/permutation';
import type { SideComparison, Stretch } from '../compare/sides';
import { welch } from '../compare/welch';
import { LOOK_LIMITS, type SidesAnswer } from '../inference/answer';
import type { StoredRun } from '../documents/run';
import { isFailure } from '../failure';
import type { CorrectionMethod } from '../documents/kinds';
import { airOf, givenAir } from '../runs/air';
import { correctionFactor } from '../runs/correction';
import { step, term, type Working } from './working';

/** How the mean difference over a stretch came about, and what its interval rests on. */
export function stretchWorking(c: SideComparison, s: Stretch, name: string): Working {
  const { answer } = s;
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
      step(
        'mixtureInterval',
        [
          term('d', 'estimate: run weights times runs', answer.estimate / 100, 'fineShare'),
          term(String.raw`\sigma_r`, 'run-to-run scatter', answer.sizes.run.sd / 100, 'fineShare', sizeFrom(answer, 'run')),
          term(String.raw`\sigma_f`, 'a refit moves it by', answer.sizes.refit.sd / 100, 'fineShare', sizeFrom(answer, 'refit')),
          term(String.raw`\sigma_d`, 'a day moves it by', answer.sizes.day.sd / 100, 'fineShare', sizeFrom(answer, 'day')),
        ],
        term(String.raw`\pm`, 'half of the 95 % interval', (answer.high - answer.low) / 200, 'fineShare'),
      ),
    ],
    notes: [
      `Every run is brought to one ${c.fwhm_rpm === 0 ? '25 rpm grid, unsmoothed' : `25 rpm grid, smoothed by a Gaussian ${c.fwhm_rpm} rpm wide (local straight line)`}, never beyond its own ends.`,
      `Runs of a stay repeat the run scatter only, stays repeat the refit, days the day: ${c.staysA} and ${c.staysB} stays on ${c.visits} ${c.visits === 1 ? 'day' : 'days'}. Nothing that could have made the difference is dropped; what these runs cannot tell apart stays in the interval.`,
      `Chance of a gain ${percent(answer.pGain)}, of a difference as large as matters (${answer.threshold} %) ${percent(answer.pMatters)}. Asked for at this look: ${percent(LOOK_LIMITS[answer.look].side)} for a gain or a loss, ${percent(LOOK_LIMITS[answer.look].none)} for no difference that matters.`,
      ...descriptionNotes(s),
    ],
  };
}

const sizeFrom = (a: SidesAnswer, size: 'run' | 'refit' | 'day') => (a.sizes[size].measured ? 'computed' : 'assumed');
const percent = (p: number): string => `${(100 * p).toFixed(1)} %`;

/** What these runs alone look like, side by side: a description, never the word. */
function descriptionNotes({ runs }: Stretch): string[] {
  const of = (side: 'A' | 'B'): number[] => runs.filter((r) => r.side === side).map((r) => r.value_pct);
  const plain = welch(of('A'), of('B'));
  const dealt = permutationTest({ values: runs.map((r) => r.value_pct), side: runs.map((r) => r.side), visit: runs.map((r) => r.visit) });
  if (isFailure(plain) || isFailure(dealt)) return [];
  return [
    `These runs alone, as if each stood for itself: ${plain.difference.toFixed(2)} % (${plain.low.toFixed(2)} to ${plain.high.toFixed(2)}), and of ${dealt.splits.toLocaleString('en-US')} ways to deal them to the two sides a share of ${dealt.p.toFixed(3)} shows at least as much. That is a description, not the answer: it knows nothing of refits and days.`,
  ];
}

/** How a run's figures were brought to the comparison's correction. */
export function correctionWorking(run: StoredRun, to: CorrectionMethod): Working {
  const { carried } = run.doc;
  const weather = airOf(run.doc);
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
          term(String.raw`\varphi`, 'humidity', weather.rh, 'share', givenAir(run.doc).rh === null ? 'assumed' : 'entered'),
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
