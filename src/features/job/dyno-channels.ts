/** The channels of runs as a worker reads them: fetched there and kept, so that they are never copied between threads. */
import type { StoredRun } from '@/core/documents/run';
import { DYNO_QUANTITIES, type RunChannel } from '@/core/runs/dyno-run';

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

/** What a comparison reads of a dyno run. */
export async function dynoChannels(run: StoredRun): Promise<RunChannel[]> {
  const wanted = run.doc.channels.filter((c) => DYNO_QUANTITIES.includes(c.quantity));
  return Promise.all(wanted.map(async (map) => ({ map, values: await channel(run.id, map.column) })));
}
