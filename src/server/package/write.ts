import { sql } from 'kysely';
import { Zip, ZipDeflate, ZipPassThrough } from 'fflate';
import { csvRow } from '@/core/export/csv';
import { PACKAGE_FORMAT, PACKAGE_VERSION, packageDoc, packageJsonSchema, type PackageDoc } from '@/core/documents/package';
import { readKept } from '@/core/documents/kept';
import { jobDoc, type JobDoc } from '@/core/documents/job';
import { runDoc } from '@/core/documents/run';
import { stripPassDoc, stripVisitDoc } from '@/core/documents/strip';
import { unitDoc } from '@/core/documents/unit';
import { BLOCK_ROWS } from '@/core/read/result';
import type { Db } from '../db/client';
import { notFound } from '../errors';
import { filePieces, INCOMING } from '../files/store';
import { isUuid } from '../ids';
import { storedValues } from '../log-blocks';
import { readShop } from '../shop';

const README = `A job of Vanner.

job.json       the car, its throttles, its runs, passes, run-sheet, guesses and everything they were before; SI units
schema.json    the JSON Schema of job.json
logs/          every recording as a table, one file each: a row of names, a row of units, then every sample in full
originals/     the files as they came, byte for byte, by their SHA-256
photos/        pictures taken at the car and of the throttles

Take it in again on the board of any Vanner: Import a job.
`;

const safe = (name: string): string => name.replace(/[^\p{L}\p{N} ._-]/gu, '_').slice(-120);
const iso = (d: Date): string => d.toISOString();

/** Hashes of the pictures that documents speak of. */
function picturesOf(job: JobDoc, units: PackageDoc['units'], sheet: PackageDoc['sheet']): string[] {
  return [
    ...new Set([
      ...job.about.photos.map((p) => p.hash),
      ...units.flatMap((u) => u.doc.photo ?? []),
      ...sheet.flatMap(({ event }) => (event.type === 'photo' ? [event.hash] : [])),
    ]),
  ];
}

/** Every row that belongs to a job, in an order that an archive keeps. */
async function rowsOfJob(db: Db, jobId: string) {
  const [logs, runs, visits, sheet, guesses, practice] = await Promise.all([
    db
      .selectFrom('log')
      .selectAll()
      .where('job_id', '=', jobId)
      .where('file_hash', 'not like', `${INCOMING}%`)
      .orderBy('created_at')
      .orderBy('id')
      .execute(),
    db.selectFrom('run').selectAll().where('job_id', '=', jobId).orderBy('created_at').orderBy('id').execute(),
    db.selectFrom('strip_visit').selectAll().where('job_id', '=', jobId).orderBy('created_at').orderBy('id').execute(),
    db.selectFrom('sheet_event').selectAll().where('job_id', '=', jobId).orderBy('seq').execute(),
    // As an archive has their moment: those of one thousandth of a second are in the same order where it is taken in.
    db
      .selectFrom('prediction')
      .selectAll()
      .where('subject', '=', 'dyno')
      .where('subject_id', '=', jobId)
      .orderBy(sql`date_trunc('milliseconds', made_at)`)
      .orderBy('id')
      .execute(),
    db.selectFrom('practice').selectAll().where('job_id', '=', jobId).orderBy('created_at').orderBy('id').execute(),
  ]);
  const passes =
    visits.length === 0
      ? []
      : await db
          .selectFrom('strip_pass')
          .selectAll()
          .where(
            'visit_id',
            'in',
            visits.map((v) => v.id),
          )
          .orderBy('created_at')
          .orderBy('id')
          .execute();
  const practiceRuns =
    practice.length === 0
      ? []
      : await db
          .selectFrom('practice_run')
          .selectAll()
          .where(
            'practice_id',
            'in',
            practice.map((p) => p.id),
          )
          .orderBy('seq')
          .execute();
  const owned = [jobId, ...runs.map((r) => r.id), ...visits.map((v) => v.id), ...passes.map((p) => p.id)];
  const history = await db
    .selectFrom('document_version')
    .selectAll()
    .where('doc_id', 'in', owned)
    .where('kind', 'in', ['job', 'run', 'strip_visit', 'strip_pass'])
    .orderBy('kept_at')
    .orderBy('doc_id')
    .orderBy('version')
    .execute();
  return { logs, runs, visits, passes, sheet, guesses, practice, practiceRuns, history };
}
type JobRows = Awaited<ReturnType<typeof rowsOfJob>>;

/** The units that a job shows, has chosen or was run with. */
async function unitsOf(db: Db, doc: JobDoc, { runs, passes }: JobRows): Promise<PackageDoc['units']> {
  const sides = [...runs.map((r) => r.doc.side), ...passes.map((p) => p.doc.side)];
  const ids = [
    ...new Set([
      ...doc.pick.shown,
      ...(doc.pick.chosen === null ? [] : [doc.pick.chosen]),
      ...sides.flatMap((s) => (s?.kind === 'unit' ? [s.unitId] : [])),
    ]),
  ].filter(isUuid);
  if (ids.length === 0) return [];
  const rows = await db.selectFrom('unit').selectAll().where('id', 'in', ids).orderBy('created_at').orderBy('id').execute();
  return rows.map((u) => ({ id: u.id, ...saved(u), doc: readKept(unitDoc, u.doc) }));
}

const saved = (r: { version: number; saved_by: string; saved_at: Date }) => ({
  version: r.version,
  savedBy: r.saved_by,
  savedAt: iso(r.saved_at),
});

/** The files that an archive holds, with where in it: originals of recordings, and pictures. */
async function filesOf(db: Db, logs: JobRows['logs'], pictures: readonly string[]): Promise<PackageDoc['files']> {
  const originals = new Map(logs.map((l) => [l.file_hash, `originals/${l.file_hash}-${safe(l.file_name)}`]));
  const photos = new Map(pictures.map((h) => [h, `photos/${h}`]));
  const hashes = [...new Set([...originals.keys(), ...photos.keys()])];
  if (hashes.length === 0) return [];
  const files = await db.selectFrom('file').select(['hash', 'size']).where('hash', 'in', hashes).orderBy('hash').execute();
  return files.map((f) => ({ hash: f.hash, size: Number(f.size), path: originals.get(f.hash) ?? photos.get(f.hash)! }));
}

/** Everything of a job but its files' bytes and samples. */
export async function packageOf(db: Db, jobId: string): Promise<PackageDoc> {
  if (!isUuid(jobId)) throw notFound('job');
  const job = await db.selectFrom('job').selectAll().where('id', '=', jobId).where('trashed_at', 'is', null).executeTakeFirst();
  if (!job) throw notFound('job');
  const [rows, shop] = await Promise.all([rowsOfJob(db, jobId), readShop(db)]);
  const { logs, runs, visits, passes, sheet, guesses, practice, practiceRuns, history } = rows;
  const doc = readKept(jobDoc, job.doc);
  const units = await unitsOf(db, doc, rows);
  const events = sheet.map((e) => ({ event: e.event, writtenAt: iso(e.written_at) }));
  const files = await filesOf(db, logs, picturesOf(doc, units, events));
  return readKept(packageDoc, {
    format: PACKAGE_FORMAT,
    version: PACKAGE_VERSION,
    exportedAt: iso(new Date()),
    shop: shop.name,
    job: { id: job.id, number: job.number, ...saved(job), archived: job.archived_at !== null, doc },
    units,
    logs: logs.map((l) => ({
      id: l.id,
      fileName: l.file_name,
      fileHash: l.file_hash,
      part: l.part,
      rows: l.rows,
      columns: l.columns,
      report: l.report,
    })),
    runs: runs.map((r) => ({
      id: r.id,
      logId: r.log_id,
      firstRow: r.first_row,
      lastRow: r.last_row,
      trashed: r.trashed_at !== null,
      ...saved(r),
      doc: readKept(runDoc, r.doc),
    })),
    visits: visits.map((v) => ({ id: v.id, trashed: v.trashed_at !== null, ...saved(v), doc: readKept(stripVisitDoc, v.doc) })),
    passes: passes.map((p) => ({
      id: p.id,
      visitId: p.visit_id,
      trashed: p.trashed_at !== null,
      ...saved(p),
      doc: readKept(stripPassDoc, p.doc),
    })),
    guesses: guesses.map((g) => ({
      id: g.id,
      subject: 'dyno',
      subjectId: g.subject_id,
      title: g.title,
      source: g.source,
      predicted: g.predicted,
      low: g.low,
      high: g.high,
      measured: g.measured,
      madeAt: iso(g.made_at),
      measuredAt: g.measured_at === null ? null : iso(g.measured_at),
    })),
    sheet: events,
    history: history.map((h) => ({ kind: h.kind, id: h.doc_id, ...saved(h), doc: h.doc })),
    practice: practice.map((p) => ({
      id: p.id,
      seed: p.seed,
      setup: p.setup,
      truth: p.truth,
      decision: p.decision,
      runs: practiceRuns.filter((r) => r.practice_id === p.id).map((r) => r.run),
    })),
    files,
  });
}

/** Every sample of a recording in full, some thousand rows at a time: what is read again is the very same double. */
async function* logCsv(db: Db, log: PackageDoc['logs'][number]): AsyncGenerator<string> {
  const names = log.columns.map((c) => String(c['name'] ?? ''));
  const units = log.columns.map((c) => String(c['unit'] ?? ''));
  yield `${csvRow(names)}\n${csvRow(units)}\n`;
  for (let block = 0; block * BLOCK_ROWS < log.rows; block += 1) {
    const rows = await db
      .selectFrom('log_block')
      .select(['col', 'data', 'width', 'decimals'])
      .where('log_id', '=', log.id)
      .where('block', '=', block)
      .orderBy('col')
      .execute();
    const columns = rows.map(storedValues);
    const count = Math.min(BLOCK_ROWS, log.rows - block * BLOCK_ROWS);
    let text = '';
    for (let i = 0; i < count; i += 1) {
      for (let c = 0; c < columns.length; c += 1) {
        const v = columns[c]![i]!;
        if (c > 0) text += ',';
        if (v === v) text += Object.is(v, -0) ? '-0' : String(v);
      }
      text += '\n';
      if (text.length > 1 << 20) {
        yield text;
        text = '';
      }
    }
    yield text;
  }
}

/** The archive as it is written, a piece at a time: nothing of it is ever whole in memory. */
export function packageStream(db: Db, doc: PackageDoc): ReadableStream<Uint8Array> {
  const encoder = new TextEncoder();
  let out: Uint8Array[] = [];
  let failed: Error | null = null;
  const zip = new Zip((error, piece) => {
    if (error) failed = error;
    else out.push(piece);
  });
  async function* steps(): AsyncGenerator<void> {
    const text = function* (name: string, content: string): Generator<void> {
      const file = new ZipDeflate(name, { level: 6 });
      zip.add(file);
      file.push(encoder.encode(content), true);
      yield;
    };
    yield* text('README.txt', README);
    yield* text('job.json', `${JSON.stringify(doc, null, 1)}\n`);
    yield* text('schema.json', `${JSON.stringify(packageJsonSchema(), null, 1)}\n`);
    for (const f of doc.files) {
      // Pictures are pressed already, and originals stay as they are.
      const file = new ZipPassThrough(f.path);
      zip.add(file);
      for await (const piece of filePieces(db, f.hash)) {
        file.push(new Uint8Array(piece));
        yield;
      }
      file.push(new Uint8Array(0), true);
    }
    for (const log of doc.logs) {
      const file = new ZipDeflate(`logs/${log.id}.csv`, { level: 3 });
      zip.add(file);
      for await (const piece of logCsv(db, log)) {
        file.push(encoder.encode(piece));
        yield;
      }
      file.push(new Uint8Array(0), true);
    }
    zip.end();
  }
  const work = steps();
  return new ReadableStream({
    async pull(controller) {
      while (out.length === 0) {
        const next = await work.next();
        if (failed) throw failed;
        if (next.done === true) break;
      }
      const ready = out;
      out = [];
      for (const piece of ready) controller.enqueue(piece);
      if (ready.length === 0) controller.close();
    },
    async cancel() {
      await work.return(undefined);
    },
  });
}
