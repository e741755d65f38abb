import type { z } from 'zod';
import type { StoredRun } from '@/core/documents/run';
import { comparisonCsv, runCsv } from '@/core/export/comparison';
import { presetJob } from '@/core/job/presets';
import type { ImportReport } from '@/core/read/result';
import { jobComparison, jobExtras } from '../comparison';
import { db, type Db, type Trx } from '../db/client';
import { ServerProblem } from '../errors';
import { uploadOf, type Upload } from '../files/upload';
import { addJob, listJobs, readJob, refreshFinding, saveJob } from '../jobs';
import { packageOf, packageStream } from '../package/write';
import { listRuns, readChannels, readRun, saveRun, settleAlike } from '../runs';
import { readShopDefaults } from '../shop';
import { addPasses, addVisit, readBook, readPass, readVisit, savePass, saveVisit } from '../strip';
import { setTrashed } from '../trash';
import { addUnit, listUnits, readUnit, saveUnit, setRetired } from '../units';
import type * as schemas from './shapes';
import { attachment, csvFile } from './download';
import { solveJob } from './solve';

/** What a handler is given: everything is checked by then. */
export interface Call {
  readonly request: Request;
  readonly id: string;
  readonly query: Readonly<Record<string, unknown>>;
  readonly body: unknown;
  /** The version a write changes. */
  readonly version: number;
  /** The one job that the key opens; null: all. */
  readonly onlyJob: string | null;
}

/** What it gives: the document for the answer, or a response of another type. */
export type Handler = (call: Call) => Promise<unknown>;

/** What taking in a file comes to; handed in, for it stands above this. */
export type TakeIn = (
  upload: Upload,
  signal: AbortSignal,
) => Promise<{ known: boolean; otherSide: unknown; runs: readonly StoredRun[]; report: ImportReport }>;

const inOne = <T>(work: (trx: Trx) => Promise<T>): Promise<T> => db().transaction().execute(work);

/** A page of a list: what comes after the item with the id `after`. */
function page<T extends { readonly id: string }>(items: readonly T[], { limit, after }: { limit: number; after?: string | undefined }) {
  const from = after === undefined ? 0 : items.findIndex((i) => i.id === after) + 1;
  if (after !== undefined && from === 0) throw new ServerProblem(422, 'invalid', 'after: this page does not follow any item of the list');
  const cut = items.slice(from, from + limit);
  return { items: cut, next: from + limit < items.length ? cut.at(-1)!.id : null };
}

const plain = (text: string): string => text.toLowerCase();

type Query<K extends 'jobsQuery' | 'unitsQuery' | 'runsQuery' | 'formatQuery' | 'uploadQuery'> = K extends keyof typeof schemas
  ? z.infer<(typeof schemas)[K] extends z.ZodType ? (typeof schemas)[K] : never>
  : never;

async function compare({ id, query }: Call): Promise<unknown> {
  const { format, form } = query as Query<'formatQuery'>;
  const { doc } = await readJob(db(), id);
  const full = await jobComparison(db(), id, doc);
  const { compared: c } = full;
  if (!c) throw new ServerProblem(404, 'no_comparison', 'This job has no runs of both sides that could be compared yet.');
  if (format === 'csv') return csvFile(comparisonCsv(c, await jobExtras(db(), id, doc, c), form), `${doc.name} comparison`);
  return {
    unitId: full.unitId,
    word: c.word,
    threshold_pct: c.threshold_pct,
    deciding: c.deciding,
    thirds: c.thirds,
    whole: c.whole,
    own: c.own,
    grid_rpm: c.grid_rpm,
    stock_W: c.a_W,
    new_W: c.b_W,
    difference_pct: c.difference_pct,
    bandLow_pct: c.band.low_pct,
    bandHigh_pct: c.band.high_pct,
    runsInStays: { stock: c.staysA, new: c.staysB, visits: c.visits },
    withLeftOut: c.withLeftOut,
    withoutSuspect: c.withoutSuspect,
    next: c.next,
    clear: c.clear,
    runs: full.runs,
    confounders: full.confounders,
  };
}

async function wholeRun({ id, query }: Call): Promise<unknown> {
  const { format, form } = query as Query<'formatQuery'>;
  const run = await readRun(db(), id);
  const values = await readChannels(db(), id, [...run.columns.keys()]);
  const channels = run.columns.map(({ name, unit }, column) => ({
    name,
    unit,
    quantity: run.doc.channels.find((c) => c.column === column)?.quantity ?? ('other' as const),
    values: values[column]!,
  }));
  if (format === 'csv') return csvFile(runCsv(channels, form), run.doc.name);
  const asNull = (values: Float64Array): (number | null)[] => Array.from(values, (v) => (Number.isFinite(v) ? v : null));
  return { ...run, channels: channels.map((c) => ({ ...c, values: asNull(c.values) })) };
}

/** Everything as lines of JSON, written as it is sent. */
async function* everything(at: Db): AsyncGenerator<string> {
  const line = (kind: string, value: object): string => `${JSON.stringify({ kind, ...value })}\n`;
  for (const unit of await listUnits(at)) yield line('unit', unit);
  for (const { id } of await listJobs(at)) {
    yield line('job', await readJob(at, id));
    for (const run of await listRuns(at, id)) yield line('run', run);
    const book = await readBook(at, id);
    for (const visit of book.visits) yield line('visit', visit);
    for (const pass of book.passes) yield line('pass', pass);
  }
}

const streamed = (lines: AsyncGenerator<string>): ReadableStream<Uint8Array> => {
  const encoder = new TextEncoder();
  return new ReadableStream({
    async pull(controller) {
      const { value, done } = await lines.next();
      if (done) controller.close();
      else controller.enqueue(encoder.encode(value));
    },
  });
};

const gone = async (kind: 'job' | 'run' | 'strip_visit' | 'strip_pass', id: string): Promise<{ done: true }> => {
  await inOne(async (trx) => {
    const jobId = await setTrashed(trx, kind, id, true);
    if (jobId !== null && kind !== 'job') await refreshFinding(trx, jobId);
  });
  return { done: true };
};

/** The work behind each operation, by its id. */
export const handlersWith = (takeIn: TakeIn): Readonly<Record<string, Handler>> => ({
  listJobs: async ({ query, onlyJob }) => {
    const { name, tag, archived, ...paging } = query as Query<'jobsQuery'>;
    const all = (await listJobs(db())).filter(
      (j) =>
        (onlyJob === null || j.id === onlyJob) &&
        (name === undefined || plain(j.name).includes(plain(name))) &&
        (tag === undefined || j.tags.includes(tag)) &&
        (archived === undefined || j.archived === (archived === 'true')),
    );
    return page(all, paging);
  },
  createJob: async ({ body }) => {
    const wanted = body as z.infer<typeof schemas.newJob>;
    return inOne(async (trx) =>
      addJob(trx, 'doc' in wanted ? wanted.doc : presetJob(wanted.name, wanted.preset, await readShopDefaults(trx))),
    );
  },
  readJob: ({ id }) => readJob(db(), id),
  updateJob: async ({ id, version, body }) =>
    (await inOne((trx) => saveJob(trx, id, version, (body as z.infer<typeof schemas.jobBody>).doc))).job,
  trashJob: ({ id }) => gone('job', id),
  exportJob: async ({ id }) => {
    const doc = await packageOf(db(), id);
    const headers = { 'content-type': 'application/zip', 'content-disposition': attachment(`${doc.job.doc.name}.vanner.zip`) };
    return new Response(packageStream(db(), doc), { headers });
  },
  exportAll: () =>
    Promise.resolve(new Response(streamed(everything(db())), { headers: { 'content-type': 'application/x-ndjson; charset=utf-8' } })),
  listUnits: async ({ query }) => {
    const { name, ...paging } = query as Query<'unitsQuery'>;
    return page(
      (await listUnits(db())).filter((u) => name === undefined || plain(u.doc.name).includes(plain(name))),
      paging,
    );
  },
  createUnit: ({ body }) => inOne((trx) => addUnit(trx, (body as z.infer<typeof schemas.unitBody>).doc)),
  readUnit: ({ id }) => readUnit(db(), id),
  updateUnit: ({ id, version, body }) => inOne((trx) => saveUnit(trx, id, version, (body as z.infer<typeof schemas.unitBody>).doc)),
  trashUnit: async ({ id }) => {
    await inOne((trx) => setRetired(trx, id, true));
    return { done: true };
  },
  solve: ({ body }) => solveJob(db(), body as z.infer<typeof schemas.solveRequest>),
  listRuns: async ({ id, query }) => {
    const { kind, side, ...paging } = query as Query<'runsQuery'>;
    await readJob(db(), id);
    const sideOf = (run: StoredRun): string | undefined => (run.doc.side?.kind === 'unit' ? run.doc.side.unitId : run.doc.side?.kind);
    const runs = (await listRuns(db(), id)).filter(
      (r) => (kind === undefined || r.doc.kind === kind) && (side === undefined || sideOf(r) === side),
    );
    return page(runs, paging);
  },
  uploadRun: async ({ id, request, query }) => {
    await readJob(db(), id);
    const done = await takeIn(uploadOf(request, id, query as Parameters<typeof uploadOf>[2]), request.signal);
    return { known: done.known, otherSide: done.otherSide !== null, runs: done.runs, report: done.report };
  },
  readRun: wholeRun,
  updateRun: ({ id, version, body }) =>
    inOne(async (trx) => {
      const run = await saveRun(trx, id, version, (body as z.infer<typeof schemas.runBody>).doc);
      await settleAlike(trx, run);
      await refreshFinding(trx, run.jobId);
      return run;
    }),
  trashRun: ({ id }) => gone('run', id),
  compare,
  listVisits: async ({ id, query }) => {
    await readJob(db(), id);
    return page((await readBook(db(), id)).visits, query as { limit: number; after?: string });
  },
  createVisit: ({ id, body }) =>
    inOne(async (trx) => {
      await readJob(trx, id);
      return addVisit(trx, id, (body as z.infer<typeof schemas.visitBody>).doc);
    }),
  readVisit: ({ id }) => readVisit(db(), id),
  updateVisit: ({ id, version, body }) => inOne((trx) => saveVisit(trx, id, version, (body as z.infer<typeof schemas.visitBody>).doc)),
  trashVisit: ({ id }) => gone('strip_visit', id),
  listPasses: async ({ id, query }) => {
    const visit = await readVisit(db(), id);
    const passes = (await readBook(db(), visit.jobId)).passes.filter((p) => p.visitId === id);
    return page(passes, query as { limit: number; after?: string });
  },
  createPass: async ({ id, body }) => {
    const [added] = await inOne(async (trx) => {
      const passes = await addPasses(trx, id, [(body as z.infer<typeof schemas.passBody>).doc]);
      await refreshFinding(trx, (await readVisit(trx, id)).jobId);
      return passes;
    });
    return added;
  },
  readPass: ({ id }) => readPass(db(), id),
  updatePass: ({ id, version, body }) => inOne((trx) => savePass(trx, id, version, (body as z.infer<typeof schemas.passBody>).doc)),
  trashPass: ({ id }) => gone('strip_pass', id),
});

/** The job that a thing of the API belongs to: what a key for one job is held to. Null: it belongs to none. */
export async function jobBehind(path: string, id: string): Promise<string | null> {
  if (path.startsWith('/jobs/')) return id;
  if (path.startsWith('/runs/')) return (await readRun(db(), id)).jobId;
  if (path.startsWith('/visits/')) return (await readVisit(db(), id)).jobId;
  if (path.startsWith('/passes/')) return (await readVisit(db(), (await readPass(db(), id)).visitId)).jobId;
  return null;
}
