import type { JobDoc } from '@/core/documents/job';
import type { Quantity, StoredRun } from '@/core/documents/run';
import type { LogLook, LoggedCar } from '@/core/logs/compare-logs';
import { sideManners } from '@/core/logs/side-manners';
import { channelSI, isSettled } from '@/core/read/guess';
import { historyLogs } from '@/core/inference/shop-history';
import type { JobFacts } from '@/core/verdict/facts';
import type { Db, Trx } from './db/client';
import { jobComparison } from './comparison';
import { keptStrip } from './job-strip';
import { KnownSums } from './known-sums';
import { readRows } from './logs';
import { listPredictions } from './predictions';
import { listRuns } from './runs';
import { shopHistory } from './shop-history';
import { readBook } from './strip';
import { workOut } from './work/work-out';

/** Channels that idle and the answer to the throttle are read from. */
const LOOKED_AT: readonly Quantity[] = ['time', 'rpm', 'throttle', 'speed', 'manifold pressure', 'boost', 'air mass flow'];
/** A log of a whole day is looked into on its own page, not for a verdict. */
const MOST_ROWS = 300_000;

/** What logs said before, by all it hangs on: reading a log again says the same. */
const looked = new KnownSums<LogLook | null>('log', 200);

async function look(db: Db | Trx, run: StoredRun, car: LoggedCar): Promise<LogLook | null> {
  if (run.lastRow - run.firstRow > MOST_ROWS) return null;
  return looked.get(db, [run.id, run.firstRow, run.lastRow, run.doc.channels, car], async () => {
    const values = new Map<Quantity, Float64Array>();
    const channels = run.doc.channels.filter((c) => LOOKED_AT.includes(c.quantity) && isSettled(c));
    const columns = channels.map((c) => c.column);
    for (const [i, read] of (await readRows(db, run.logId, columns, run.firstRow, run.lastRow)).entries())
      values.set(channels[i]!.quantity, channelSI(read, channels[i]!));
    const time = values.get('time');
    if (!time) return () => Promise.resolve(null);
    values.delete('time');
    return () => workOut('log', time, values, car);
  });
}

async function manners(db: Db | Trx, jobId: string, doc: JobDoc, unitId: string | null): Promise<JobFacts['manners']> {
  const logs = (await listRuns(db, jobId)).filter((r) => r.doc.kind === 'log' && r.doc.leftOut === null && r.doc.side !== null);
  if (logs.length === 0) return null;
  const { engine, gearbox } = doc.car;
  const car: LoggedCar = { cylinders: engine.cylinders, idle_rpm: engine.idle_rpm, gearbox };
  const of = async (counts: (r: StoredRun) => boolean): Promise<LogLook[]> => {
    const found: LogLook[] = [];
    for (const run of logs.filter(counts)) {
      const l = await look(db, run, car);
      if (l) found.push(l);
    }
    return found;
  };
  const stock = sideManners(await of((r) => r.doc.side?.kind === 'stock'));
  const other = sideManners(await of((r) => r.doc.side?.kind === 'unit' && r.doc.side.unitId === unitId));
  return stock.logs + other.logs === 0 ? null : { stock, other };
}

/** Everything a verdict on a job stands on besides its document. */
export async function jobFacts(db: Db | Trx, jobId: string, doc: JobDoc): Promise<JobFacts> {
  const [history, book, predictions] = await Promise.all([shopHistory(db, jobId), readBook(db, jobId), listPredictions(db, 'dyno', jobId)]);
  const dyno = await jobComparison(db, jobId, doc, history);
  // One throttle body is judged: where the dyno has compared one, the strip is asked about the same.
  const { unitId, analysis } = await keptStrip(db, doc, book, dyno.compared ? dyno.unitId : undefined, historyLogs(history));
  const inlet = dyno.inletAir;
  return {
    unitId,
    comparison: dyno.compared,
    confounders: dyno.confounders,
    inletAir: inlet && inlet.a !== null && inlet.b !== null ? { a_K: inlet.a, b_K: inlet.b } : null,
    strip: analysis,
    stripCost: book.visits.reduce(
      (sum, v) => sum + v.doc.entryFee + v.doc.perPassFee * book.passes.filter((p) => p.visitId === v.id).length,
      0,
    ),
    guesses: predictions.toReversed(),
    manners: await manners(db, jobId, doc, unitId),
  };
}
