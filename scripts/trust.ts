/** `npm run trust [-- TRIALS]`: how often the inference claims what is not so, under every trouble a test meets; one line each. */
import { Worker, isMainThread, parentPort, workerData } from 'node:worker_threads';
import { fileURLToPath } from 'node:url';
import { isFailure } from '@/core/failure';
import { inferSides } from '@/core/inference/answer';
import { seededRandom } from '@/core/numbers/random';
import { TROUBLES, troubledRuns } from '@/core/stand-ins/troubles';

interface Tally {
  readonly trouble: number;
  readonly trials: number;
  readonly gain: number;
  readonly loss: number;
  readonly none: number;
  readonly covered: number;
}

/** The stated bounds: false claims at most, coverage at least, %. */
const MOST_FALSE = 6;
const LEAST_COVERED = 93;
const SEED = 4_021;
const THREADS = 2;

function tally(trouble: number, from: number, to: number): Tally {
  const t = TROUBLES[trouble]!;
  let [gain, loss, none, covered] = [0, 0, 0, 0];
  for (let trial = from; trial < to; trial += 1) {
    const answer = inferSides({ runs: troubledRuns(t, seededRandom(SEED + 100_003 * trouble + trial)) });
    if (isFailure(answer)) throw new Error(answer.error);
    if (answer.word === 'gain') gain += 1;
    else if (answer.word === 'loss') loss += 1;
    else if (answer.word === 'no difference that matters') none += 1;
    if (answer.low <= t.effect && t.effect <= answer.high) covered += 1;
  }
  return { trouble, trials: to - from, gain, loss, none, covered };
}

/** Both threads take every trouble's trials in turn: half each. */
async function main(): Promise<void> {
  const trials = Math.max(THREADS, Number(process.argv[2] ?? 1000));
  const from = performance.now();
  const half = Math.floor(trials / THREADS);
  const parts = await Promise.all(
    Array.from(
      { length: THREADS },
      (_, i) =>
        new Promise<Tally[]>((resolve, reject) => {
          const range = [i * half, i === THREADS - 1 ? trials : (i + 1) * half];
          const worker = new Worker(fileURLToPath(import.meta.url), { workerData: range });
          worker.once('message', resolve);
          worker.once('error', reject);
        }),
    ),
  );
  const wide = Math.max(...TROUBLES.map((t) => t.name.length));
  console.log(`${'trouble'.padEnd(wide)}  truly   false  covered  told`);
  let worst = 0;
  let least = 100;
  TROUBLES.forEach((t, k) => {
    const own = parts.map((p) => p[k]!);
    const sum = (f: (x: Tally) => number): number => own.reduce((s, x) => s + f(x), 0);
    const share = (n: number): number => (100 * n) / trials;
    const wrong = t.effect === 0 ? sum((x) => x.gain + x.loss) : sum((x) => x.loss + (Math.abs(t.effect) >= 0.5 ? x.none : 0));
    const told = t.effect === 0 ? sum((x) => x.none) : sum((x) => x.gain);
    const covered = share(sum((x) => x.covered));
    worst = Math.max(worst, share(wrong));
    least = Math.min(least, covered);
    const text = (v: number): string => `${v.toFixed(1).padStart(5)} %`;
    console.log(`${t.name.padEnd(wide)}  ${`${t.effect} %`.padStart(5)} ${text(share(wrong))}  ${text(covered)} ${text(share(told))}`);
  });
  const seconds = (performance.now() - from) / 1000;
  const ok = worst <= MOST_FALSE && least >= LEAST_COVERED;
  console.log(
    `${trials} trials each in ${seconds.toFixed(0)} s. Worst: ${worst.toFixed(1)} % false (at most ${MOST_FALSE}), ${least.toFixed(1)} % covered (at least ${LEAST_COVERED}): ${ok ? 'held' : 'NOT HELD'}`,
  );
  process.exitCode = ok ? 0 : 1;
}

if (isMainThread) void main();
else {
  const [from, to] = workerData as [number, number];
  parentPort!.postMessage(TROUBLES.map((_, k) => tally(k, from, to)));
}
