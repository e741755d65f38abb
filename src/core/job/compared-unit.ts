import type { RunSide } from '../documents/run';

/** The throttle a job's runs are compared for: the chosen one if it has runs, else the first that has, else the chosen one. */
export function comparedUnit(chosen: string | null, runs: readonly { readonly doc: { readonly side: RunSide | null } }[]): string | null {
  const ids = runs.flatMap((r) => (r.doc.side?.kind === 'unit' ? [r.doc.side.unitId] : []));
  return chosen !== null && ids.includes(chosen) ? chosen : (ids[0] ?? chosen);
}
