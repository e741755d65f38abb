/** Runs the uncertainty of a job's gains off the interface thread, in short pieces, so that it can be stopped at any time. */
import { expose } from 'comlink';
import type { EngineProblem } from '@/core/engine/induction';
import { isFailure } from '@/core/failure';
import type { Path } from '@/core/flow/path';
import { UNCERTAINTY_DRAWS, uncertaintyRun, type GainRange, type Tolerances } from '@/core/sizing/uncertainty';

export interface UncertaintyRequest {
  readonly problem: EngineProblem;
  readonly before: Path | null;
  readonly reference: Path;
  readonly candidates: readonly { readonly id: string; readonly path: Path }[];
  readonly tolerances: Tolerances | null;
  readonly seed: number;
  readonly apart: readonly boolean[];
  readonly modelError: number;
}

export type UncertaintyReply = Readonly<Record<string, GainRange>>;

/** Draws between two looks at whether someone has had enough. */
const PIECE = 40;

let newest = 0;

const channel = new MessageChannel();
/** Runs at rest, in the order they lay down: an old run must wake too, to find that it is no longer the newest. */
const resting: (() => void)[] = [];
channel.port1.onmessage = () => resting.shift()?.();
/** A message that has not come by then does not come, ms. */
const LATEST_MS = 100;
/** Lets waiting messages in. A timer of 0 would be held back to 4 ms each time; a late one only stands in for a lost message. */
const rest = (): Promise<void> =>
  new Promise((done) => {
    const late = setTimeout(() => {
      resting.splice(resting.indexOf(wake), 1);
      done();
    }, LATEST_MS);
    const wake = (): void => {
      clearTimeout(late);
      done();
    };
    resting.push(wake);
    channel.port2.postMessage(0);
  });

const api = {
  /** Draws to the end unless a newer run or a stop comes; null then. `progress` is told the share done and the ranges so far. */
  async uncertainty(
    request: UncertaintyRequest,
    progress: (share: number, soFar: UncertaintyReply) => void,
    draws = UNCERTAINTY_DRAWS,
  ): Promise<UncertaintyReply | null> {
    newest += 1;
    const mine = newest;
    const run = uncertaintyRun({
      problem: request.problem,
      before: request.before,
      reference: request.reference,
      candidates: request.candidates.map((c) => c.path),
      tolerances: request.tolerances ?? undefined,
      seed: request.seed,
      apart: request.apart,
      modelError: request.modelError,
    });
    if (isFailure(run)) return null;
    const named = (): UncertaintyReply => Object.fromEntries(run.ranges().map((r, i) => [request.candidates[i]!.id, r]));
    for (let taken = 0, told = 0; taken < draws;) {
      taken = run.draw(Math.min(PIECE, draws - taken));
      if (taken / draws - told >= 0.05 && taken < draws) {
        told = taken / draws;
        progress(told, named());
      }
      await rest();
      if (mine !== newest) return null;
    }
    return named();
  },
  stop(): void {
    newest += 1;
  },
};
export type SizingApi = typeof api;
expose(api);
