import { drawThroughPoint } from './draw-through';
import { centrifugalPoint, turboPoint } from './blow-through';
import type { EngineProblem, EngineReference } from './induction';
import type { NaResult } from './na';
import type { BoostedResult } from './boosted';

/** An array per engine speed, at some of them only. */
const at = <T>(values: readonly T[], indices: readonly number[]): T[] => indices.map((i) => values[i]!);

/** The same problem at some of its engine speeds (indices into its rpm). What is told for each of them goes along. */
export function problemAt(problem: EngineProblem, indices: readonly number[]): EngineProblem {
  const { input } = problem;
  const common = {
    rpm: at(input.rpm, indices),
    power: 'value_W' in input.power ? { value_W: at(input.power.value_W, indices) } : input.power,
  };
  switch (problem.kind) {
    case 'na':
      return { kind: 'na', input: { ...problem.input, ...common } };
    case 'centrifugal':
      return { kind: 'centrifugal', input: { ...problem.input, ...common } };
    case 'drawThrough': {
      const { boost_Pa } = problem.input;
      return { kind: 'drawThrough', input: { ...problem.input, ...common, ...(boost_Pa && { boost_Pa: at(boost_Pa, indices) }) } };
    }
    case 'turbo': {
      const { compressor } = problem.input;
      const target_Pa = typeof compressor.target_Pa === 'number' ? compressor.target_Pa : at(compressor.target_Pa, indices);
      return { kind: 'turbo', input: { ...problem.input, ...common, compressor: { ...compressor, target_Pa } } };
    }
  }
}

/** A solved reference at some of its engine speeds: what it holds (efficiency, largest flow) stays. */
export function referenceAt(ref: EngineReference, indices: readonly number[]): EngineReference {
  const picked = <R extends NaResult | BoostedResult>(result: R): R =>
    Object.fromEntries(
      Object.entries(result).map(([key, values]) => [
        key,
        Array.isArray(values) && values.length === ref.input.rpm.length ? at(values, indices) : values,
      ]),
    ) as unknown as R;
  switch (ref.kind) {
    case 'na': {
      const { input } = problemAt(ref, indices) as { input: typeof ref.input };
      return { ...ref, input, result: picked(ref.result) };
    }
    case 'drawThrough': {
      const { input } = problemAt(ref, indices) as { input: typeof ref.input };
      return { ...ref, input, result: picked(ref.result), setup: { ...ref.setup, input, solvePoint: drawThroughPoint(input) } };
    }
    case 'centrifugal': {
      const { input } = problemAt(ref, indices) as { input: typeof ref.input };
      return { ...ref, input, result: picked(ref.result), setup: { ...ref.setup, input, solvePoint: centrifugalPoint(input) } };
    }
    case 'turbo': {
      const { input } = problemAt(ref, indices) as { input: typeof ref.input };
      return { ...ref, input, result: picked(ref.result), setup: { ...ref.setup, input, solvePoint: turboPoint(input) } };
    }
  }
}
