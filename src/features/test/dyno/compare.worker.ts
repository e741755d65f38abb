/** Prepares and compares dyno runs off the interface thread. Channels are fetched here and kept, so they are never copied. */
import { expose } from 'comlink';
import { compareSides, type SideComparison } from '@/core/compare/sides';
import { confounders, type ComparedRun, type Confounder } from '@/core/compare/confounders';
import type { StoredRun } from '@/core/documents/run';
import { isFailure, type Failure } from '@/core/failure';
import type { CorrectionMethod } from '@/core/runs/correction';
import { dynoRun, type DynoRun, type RunChannel } from '@/core/runs/dyno-run';
import { gridRun } from '@/core/runs/grid';
import { smoothOverRpm } from '@/core/runs/smooth';

export interface CompareRequest {
  readonly runs: readonly StoredRun[];
  readonly unitId: string | null;
  readonly fwhm_rpm: number;
  readonly correction: CorrectionMethod;
  readonly assumedSd_pct: number;
}

/** A run as the overlay draws it, or why it cannot be. */
export interface PreparedRun {
  readonly id: string;
  readonly failure: Failure | null;
  readonly rpm: readonly number[];
  readonly power_W: readonly number[];
  readonly correction: DynoRun['correction'] | null;
  readonly swept: number;
  readonly samples: number;
  readonly block: number;
  readonly inletAirStart_K: number | null;
  readonly inletAirPeak_K: number | null;
}

export interface CompareReply {
  readonly prepared: readonly PreparedRun[];
  readonly comparison: SideComparison | Failure | null;
  readonly confounders: readonly Confounder[];
}

const NEEDED = ['rpm', 'power', 'torque', 'throttle', 'inlet air', 'coolant'];
const cache = new Map<string, Promise<Float64Array>>();

function channel(runId: string, column: number): Promise<Float64Array> {
  const key = `${runId}/${column}`;
  let found = cache.get(key);
  if (!found) {
    found = fetch(`/api/runs/${runId}/channels/${column}`).then(async (r) => {
      if (!r.ok) throw new Error('a channel could not be read');
      return new Float64Array(await r.arrayBuffer());
    });
    found.catch(() => cache.delete(key));
    cache.set(key, found);
  }
  return found;
}

async function channels(run: StoredRun): Promise<RunChannel[]> {
  const wanted = run.doc.channels.filter((c) => NEEDED.includes(c.quantity));
  return Promise.all(wanted.map(async (map) => ({ map, values: await channel(run.id, map.column) })));
}

function overlay(run: DynoRun, fwhm: number): { rpm: number[]; power_W: number[] } {
  const grid = gridRun(run.rpm, smoothOverRpm(run.rpm, run.power_W, fwhm));
  return isFailure(grid) ? { rpm: [], power_W: [] } : { rpm: grid.rpm, power_W: grid.value };
}

const EMPTY = { rpm: [], power_W: [], correction: null, swept: 0, samples: 0, block: 1, inletAirStart_K: null, inletAirPeak_K: null };

async function compare(request: CompareRequest): Promise<CompareReply> {
  const prepared: PreparedRun[] = [];
  const ready: ComparedRun[] = [];
  for (const run of request.runs) {
    const dyno = dynoRun(await channels(run), run.doc, request.correction);
    if (isFailure(dyno)) {
      prepared.push({ ...EMPTY, id: run.id, failure: dyno });
      continue;
    }
    const { correction, swept, samples, block, inletAirStart_K, inletAirPeak_K } = dyno;
    prepared.push({
      ...overlay(dyno, request.fwhm_rpm),
      id: run.id,
      failure: null,
      correction,
      swept,
      samples,
      block,
      inletAirStart_K,
      inletAirPeak_K,
    });
    if (run.doc.leftOut === null) ready.push({ id: run.id, doc: run.doc, run: dyno });
  }
  const a = ready.filter((r) => r.doc.side?.kind === 'stock');
  const b = ready.filter((r) => r.doc.side?.kind === 'unit' && r.doc.side.unitId === request.unitId);
  if (a.length === 0 || b.length === 0) return { prepared, comparison: null, confounders: [] };
  return {
    prepared,
    comparison: compareSides(
      a.map((r) => r.run),
      b.map((r) => r.run),
      request,
    ),
    confounders: confounders(a, b),
  };
}

export const api = { compare };
export type CompareApi = typeof api;
expose(api);
