/** Looks into logs off the interface thread: fetches a channel once, keeps it, and hands out what a screen asks for. */
import { expose, transfer } from 'comlink';
import { alignedPull, lookAtLog, valuesAtRpm, type LogBase, type LoggedCar, type LogLook, type LogTraces } from '@/core/logs/compare-logs';
import type { FoundPull } from '@/core/logs/pulls';
import { pyramidOf, type Pyramid } from '@/core/logs/pyramid';
import { traceOf, type Trace } from '@/core/logs/trace';
import type { ValueAt } from '@/core/logs/value-at';
import type { ChannelMap, Quantity, StoredRun } from '@/core/documents/run';
import { failure, type Failure } from '@/core/failure';
import { roadRuns, widestRise, type RoadRun, type RoadWindow, type SpeedSpan } from '@/core/strip/road';
import { channelSI, isSettled } from '@/core/read/guess';

/** A channel ready to be drawn: its own samples and the smallest and largest of ever wider blocks of them. */
export interface DrawnTrace extends Trace {
  readonly pyramid: Pyramid;
}

const raw = new Map<string, Promise<Float64Array>>();

function channel(runId: string, column: number): Promise<Float64Array> {
  const key = `${runId}/${column}`;
  let found = raw.get(key);
  if (!found) {
    found = fetch(`/api/runs/${runId}/channels/${column}`).then(async (r) => {
      if (!r.ok) throw new Error('a channel could not be read');
      return new Float64Array(await r.arrayBuffer());
    });
    found.catch(() => raw.delete(key));
    raw.set(key, found);
  }
  return found;
}

/** A channel that stands for a quantity, its unit known; without one its figures mean nothing yet. */
const mapOf = (run: StoredRun, quantity: Quantity): ChannelMap | undefined =>
  run.doc.channels.find((c) => c.quantity === quantity && isSettled(c));

/** Seconds from the log's first row; a log without a clock counts its rows. */
async function clock(run: StoredRun): Promise<Float64Array> {
  const map = mapOf(run, 'time');
  if (!map) return Float64Array.from({ length: run.lastRow - run.firstRow + 1 }, (_, i) => i);
  const time = channelSI(await channel(run.id, map.column), map);
  const first = time.find((t) => Number.isFinite(t)) ?? 0;
  return first === 0 ? time : time.map((t) => t - first);
}

async function siTrace(run: StoredRun, map: ChannelMap): Promise<Trace> {
  const values = await channel(run.id, map.column);
  return traceOf(await clock(run), isSettled(map) ? channelSI(values, map) : values);
}

async function drawn(run: StoredRun, column: number): Promise<DrawnTrace> {
  const map = run.doc.channels.find((c) => c.column === column) ?? { column, quantity: 'other' as const, unit: null };
  const trace = await siTrace(run, map);
  const pyramid = pyramidOf(trace.value);
  const buffers = [trace.time_s.buffer, trace.value.buffer, ...pyramid.levels.flatMap((l) => [l.low.buffer, l.high.buffer])];
  return transfer({ ...trace, pyramid }, buffers as ArrayBuffer[]);
}

const kept = new Map<string, Promise<LogTraces>>();

/** All mapped channels of a log; a changed mapping is another log. */
function traces(run: StoredRun): Promise<LogTraces> {
  const key = `${run.id}/${JSON.stringify(run.doc.channels)}`;
  let found = kept.get(key);
  if (!found) {
    found = Promise.all(
      run.doc.channels
        .filter((c) => c.quantity !== 'other' && c.quantity !== 'time')
        .map(async (c) => [c.quantity, await siTrace(run, c)] as const),
    ).then((list) => Object.fromEntries(list) as LogTraces);
    found.catch(() => kept.delete(key));
    kept.set(key, found);
  }
  return found;
}

async function look(run: StoredRun, car: LoggedCar): Promise<LogLook> {
  return lookAtLog(await traces(run), car);
}

async function values(
  run: StoredRun,
  pull: Pick<FoundPull, 'from_s' | 'to_s'>,
  rpm: number,
  intervals: LogLook['intervals'],
): Promise<{ quantity: Quantity; at: ValueAt | Failure }[]> {
  return valuesAtRpm(await traces(run), pull, rpm, intervals);
}

/** More points than a picture has columns say nothing more: every nth is taken, and both ends. */
const MOST_POINTS = 3000;

async function aligned(
  run: StoredRun,
  quantity: Quantity,
  pull: Pick<FoundPull, 'from_s' | 'to_s'>,
  base: LogBase,
): Promise<{ x: number[]; y: number[] } | null> {
  const found = alignedPull(await traces(run), quantity, pull, base);
  if (!found) return null;
  const every = Math.ceil(found.x.length / MOST_POINTS);
  const at = Array.from({ length: Math.ceil(found.x.length / every) }, (_, k) => k * every);
  return { x: at.map((i) => found.x[i]!), y: at.map((i) => found.y[i]!) };
}

/** The runs of a log through a window of speed, and how far its widest rise goes. */
async function road(run: StoredRun, window: RoadWindow): Promise<{ runs: RoadRun[] | Failure; widest: SpeedSpan | null }> {
  const { speed, altitude = null } = await traces(run);
  if (!speed) return { runs: failure('speed_not_reached'), widest: null };
  return { runs: roadRuns(speed, altitude, window), widest: widestRise(speed) };
}

export const api = { drawn, look, values, aligned, road };
export type LogApi = typeof api;
expose(api);
