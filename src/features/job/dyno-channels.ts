/** The channels of runs as a worker reads them: fetched there and kept, so that they are never copied between threads. */
import type { StoredRun } from '@/core/documents/run';
import { DYNO_QUANTITIES, type RunChannel } from '@/core/runs/dyno-run';

const cache = new Map<string, Promise<Float64Array[]>>();

/** Columns of a run, all by one request: a comparison reads several of each of many runs. */
function columnsOf(runId: string, columns: readonly number[]): Promise<Float64Array[]> {
  if (columns.length === 0) return Promise.resolve([]);
  const url = `/api/runs/${runId}/channels/${columns.join(',')}`;
  let found = cache.get(url);
  if (!found) {
    found = fetch(url).then(async (r) => {
      if (!r.ok) throw new Error('a channel could not be read');
      const all = new Float64Array(await r.arrayBuffer());
      const rows = all.length / columns.length;
      return columns.map((_, i) => all.subarray(i * rows, (i + 1) * rows));
    });
    found.catch(() => cache.delete(url));
    cache.set(url, found);
  }
  return found;
}

/** What a comparison reads of a dyno run. */
export async function dynoChannels(run: StoredRun): Promise<RunChannel[]> {
  const wanted = run.doc.channels.filter((c) => DYNO_QUANTITIES.includes(c.quantity));
  const values = await columnsOf(
    run.id,
    wanted.map((c) => c.column),
  );
  return wanted.map((map, i) => ({ map, values: values[i]! }));
}
