/** What stock's manifold showed on the dyno, worked out off the interface thread. */
import { expose } from 'comlink';
import type { StoredRun } from '@/core/documents/run';
import { isFailure } from '@/core/failure';
import { dynoRun } from '@/core/runs/dyno-run';
import { gridRun } from '@/core/runs/grid';
import { smoothOverRpm } from '@/core/runs/smooth';
import { dynoChannels } from '@/features/job/dyno-channels';

/** Manifold pressure below its own gauge's key-on reading over engine speed: the mean of runs. */
export interface ManifoldDrop {
  readonly rpm: readonly number[];
  readonly drop_Pa: readonly number[];
  readonly runs: number;
  /** Runs whose channel stays unused: nobody wrote its key-on reading down. */
  readonly withoutKeyOn: number;
  /** Runs in which no wide-open pull is found, by their own throttle channel where they have one. */
  readonly noPull: number;
}

/** What stock's manifold showed, wide open; rpm is empty where no run tells. */
async function manifoldDrop(runs: readonly StoredRun[], fwhm_rpm: number): Promise<ManifoldDrop> {
  const sums = new Map<number, { sum: number; n: number }>();
  let [told, withoutKeyOn, noPull] = [0, 0, 0];
  for (const run of runs) {
    const dyno = dynoRun(await dynoChannels(run), run.doc, 'none');
    if (isFailure(dyno)) {
      noPull += 1;
      continue;
    }
    const map = dyno.extra['manifold pressure'];
    if (!map) continue;
    const { keyOn_Pa } = run.doc;
    if (keyOn_Pa === null) {
      withoutKeyOn += 1;
      continue;
    }
    const grid = gridRun(map.rpm, smoothOverRpm(map.rpm, map.value, fwhm_rpm));
    if (isFailure(grid)) continue;
    told += 1;
    grid.rpm.forEach((n, i) => {
      const at = sums.get(n) ?? { sum: 0, n: 0 };
      sums.set(n, { sum: at.sum + keyOn_Pa - grid.value[i]!, n: at.n + 1 });
    });
  }
  // Where not every run is, the mean would step.
  const rpm = [...sums.keys()].filter((n) => sums.get(n)!.n === told).sort((a, b) => a - b);
  return { rpm, drop_Pa: rpm.map((n) => sums.get(n)!.sum / told), runs: told, withoutKeyOn, noPull };
}

export const api = { manifoldDrop };
export type ManifoldDropApi = typeof api;
expose(api);
