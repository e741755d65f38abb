import { engineOf, intake, KINDS, solveOf } from '../../../test/engines';
import { must } from '../failure';
import { compilePath } from '../flow/compile';
import { problemAt, referenceAt } from './at-speeds';
import { isBoosted, referenceOf, solveCandidate, type EngineProblem } from './induction';

const SOME = [1, 3];
const path = intake(0.062);
const other = must(compilePath(intake(0.07)));

/** Each kind as it usually is, and with what can be told for each engine speed. */
const PROBLEMS: readonly (readonly [string, EngineProblem])[] = [
  ...KINDS.map((kind) => [kind, engineOf(kind)] as const),
  ['a measured power', withInput('na', { power: { value_W: [40_000, 80_000, 110_000, 120_000] } })],
  ['a measured boost behind a blower', withInput('drawThrough', { boost_Pa: [30_000, 42_000, 50_000, 54_000] })],
  ['a boost that rises', withInput('turbo', { compressor: { target_Pa: [120_000, 150_000, 175_000, 180_000], targetAt: 'plenum' } })],
];

function withInput(kind: (typeof KINDS)[number], more: object): EngineProblem {
  const { input } = engineOf(kind);
  return { kind, input: { ...input, ...more } } as EngineProblem;
}

it.each(PROBLEMS)('some of its engine speeds are the same engine there: %s', (_name, problem) => {
  const whole = must(referenceOf(problem.kind, solveOf(problem, path, path)));
  const part = problemAt(problem, SOME);
  expect(part.input.rpm).toEqual([3500, 6200]);
  // The largest flow is at the last speed, which both have: what a cooler loses is the same for both.
  const anew = must(referenceOf(part.kind, solveOf(part, path, path)));
  const picked = referenceAt(whole, SOME);
  for (const ref of [anew, picked]) {
    const solved = must(solveCandidate(ref, other));
    const full = must(solveCandidate(whole, other));
    for (const [k, i] of SOME.entries()) {
      expect(ref.result.power_W[k]! / whole.result.power_W[i]!).toBeCloseTo(1, 8);
      expect(ref.result.massFlow_kgps[k]! / whole.result.massFlow_kgps[i]!).toBeCloseTo(1, 8);
      expect(solved.massFlow_kgps[k]! / full.massFlow_kgps[i]!).toBeCloseTo(1, 8);
      expect(solved.plenum_Pa[k]! / full.plenum_Pa[i]!).toBeCloseTo(1, 8);
      if (isBoosted(solved) && isBoosted(full)) expect(solved.compressorOut_K[k]! / full.compressorOut_K[i]!).toBeCloseTo(1, 8);
    }
  }
});
