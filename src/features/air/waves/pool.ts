import { wrap, type Remote } from 'comlink';
import type { WaveResult } from '@/core/waves/result';
import type { WaveEngine } from '@/core/waves/input';
import { KeptResults, type CurvePoint } from './kept-results';
import type { WavesApi } from './waves.worker';

/** One engine speed of one inlet. */
export interface WaveTask {
  readonly engine: WaveEngine;
  readonly rpm: number;
}

/** Workers at most; two at least: the system shares two processors between them and the interface well enough. */
const MOST_WORKERS = 4;
const FEWEST_WORKERS = 2;
const workersHere = (): number => Math.min(MOST_WORKERS, Math.max(FEWEST_WORKERS, (navigator.hardwareConcurrency || 2) - 1));

/** What was reckoned, by what went in: a figure typed back gives its answer at once. The oldest go first. */
const MOST_KEPT = 3000;
const kept = new Map<string, WaveResult>();
const waveKey = (task: WaveTask): string => JSON.stringify([task.engine, task.rpm]);

/** What is kept is waited for no longer than a few speeds take to reckon: a store that does not answer holds nothing up. */
const LONGEST_LOOK_ms = 500;

/** Over a reload and another day too; a build that is worked on keeps nothing, its model may change with every line. */
const RELEASE = process.env.VANNER_RELEASE ?? '';
let results: KeptResults | null = null;
const disk = (): KeptResults | null => (RELEASE === '' || typeof indexedDB === 'undefined' ? null : (results ??= new KeptResults(RELEASE)));

const keep = (key: string, result: WaveResult): void => {
  if (kept.size >= MOST_KEPT) kept.delete(kept.keys().next().value!);
  kept.set(key, result);
};

/** Only what a curve needs is kept of most: a picture is large. */
const bare = (r: CurvePoint): WaveResult => ({
  ...r,
  curves: { valve_Pa: NONE, mouth_Pa: NONE, plenum_Pa: NONE, throttle_kgps: NONE, inletArea_m2: NONE },
  picture: { places_m: NONE, p_Pa: new Float32Array() },
});
const NONE = new Float64Array();

export interface WaveRun {
  /** Ends the work: what is not reckoned is not reckoned. */
  readonly cancel: () => void;
  readonly done: Promise<void>;
}

/**
 * Works through tasks in their order on as many workers as this machine has to spare. `onResult` hears of each as it comes,
 * kept ones at once. A worker that breaks is replaced once; after that its task is left out and told by `onLost`.
 */
export function runWaves(
  tasks: readonly WaveTask[],
  onResult: (index: number, result: WaveResult) => void,
  onLost: (index: number) => void,
  whole = false,
): WaveRun {
  let stopped = false;
  const workers: Worker[] = [];
  const waiting: number[] = [];
  tasks.forEach((task, i) => {
    const known = kept.get(waveKey(task));
    if (known && (!whole || known.picture.p_Pa.length > 0)) onResult(i, known);
    else waiting.push(i);
  });
  const begin = (): { worker: Worker; api: Remote<WavesApi>; broke: Promise<never> } => {
    const worker = new Worker(new URL('./waves.worker.ts', import.meta.url), { type: 'module' });
    workers.push(worker);
    const broke = new Promise<never>((_, refuse) => {
      worker.onerror = () => refuse(new Error('worker'));
    });
    broke.catch(() => {});
    return { worker, api: wrap<WavesApi>(worker), broke };
  };
  const lane = async (): Promise<void> => {
    let thread: ReturnType<typeof begin> | null = null;
    for (let i = waiting.shift(); i !== undefined && !stopped; i = waiting.shift()) {
      const task = tasks[i]!;
      for (let tries = 0; tries < 2; tries += 1) {
        try {
          thread ??= begin();
          const result = (await Promise.race([thread.api.run(task.engine, task.rpm), thread.broke])) as WaveResult;
          if (stopped) return;
          keep(waveKey(task), whole ? result : bare(result));
          if (!whole) void disk()?.put(waveKey(task), result);
          onResult(i, result);
          break;
        } catch {
          if (stopped) return;
          thread?.worker.terminate();
          thread = null;
          if (tries === 1) onLost(i);
        }
      }
    }
    thread?.worker.terminate();
  };
  /** What this browser kept of them; where it keeps nothing, nothing. */
  const fromDisk = async (): Promise<void> => {
    const store = whole || waiting.length === 0 ? null : disk();
    if (!store) return;
    const asked = [...waiting];
    const late = new Promise<never[]>((give) => setTimeout(() => give([]), LONGEST_LOOK_ms));
    const found = await Promise.race([store.load(asked.map((i) => waveKey(tasks[i]!))).catch(() => []), late]);
    if (stopped) return;
    asked.forEach((i, k) => {
      const point = found[k];
      if (!point) return;
      waiting.splice(waiting.indexOf(i), 1);
      keep(waveKey(tasks[i]!), bare(point));
      onResult(i, bare(point));
    });
  };
  const all = async (): Promise<void> => {
    await fromDisk();
    if (!stopped) await Promise.all(Array.from({ length: Math.min(workersHere(), waiting.length) }, lane));
  };
  return {
    cancel: () => {
      stopped = true;
      workers.forEach((w) => w.terminate());
    },
    done: all(),
  };
}
