import { Unzip, UnzipInflate, type UnzipFile } from 'fflate';
import { sql } from 'kysely';
import { packageDoc, type PackageDoc } from '@/core/documents/package';
import { MOST_CHANNELS } from '@/core/documents/kinds';
import { packedBlocks, type PlacedBlock } from '@/core/read/packed-block';
import { BLOCK_ROWS } from '@/core/read/result';
import type { Db, Trx } from '../db/client';
import { ServerProblem } from '../errors';
import { IncomingFile } from '../files/store';
import { refreshFinding } from '../jobs';
import { packageDocument, type PackageDocument } from './document';
import { putPackage } from './put';

/** Largest archive taken in, bytes as sent; and what it may unfold to. */
export const PACKAGE_LIMIT_BYTES = 1024 * 1024 * 1024;
const UNFOLDED_LIMIT_BYTES = 4 * PACKAGE_LIMIT_BYTES;
const JSON_LIMIT_BYTES = 64 * 1024 * 1024;
const MOST_ENTRIES = 30_000;
/** What an archive may unfold to over what was sent of it: text shrinks to a tenth, rarely to a hundredth; bombs to a thousandth. */
const MOST_UNFOLDED = 250;
/** Below this an archive may unfold to anything, bytes. */
const UNFOLDED_FREELY_BYTES = 8 * 1024 * 1024;
/** Samples of a recording: rows, and cells of all recordings together. */
const MOST_ROWS = 5_000_000;
const MOST_CELLS = 200_000_000;
/** A line of a recording with every channel there may be. */
const LONGEST_LINE = 64 * MOST_CHANNELS;

const refused = (code: string, message: string): ServerProblem => new ServerProblem(422, code, message);

/** Where a record of words ends: a quoted name may hold line ends. −1: not in what is in hand. */
function recordEnd(text: string, from: number): number {
  let quoted = false;
  for (let i = from; i < text.length; i += 1) {
    if (text[i] === '"') quoted = !quoted;
    else if (text[i] === '\n' && !quoted) return i;
  }
  return -1;
}

/** A recording's samples out of its table, a column as blocks of rows, as it comes. */
class SampleTable {
  private readonly decoder = new TextDecoder('utf-8', { fatal: true });
  private rest = '';
  private line = 0;
  private columns = 0;
  private readonly blocks: Float64Array[][] = [];
  rows = 0;

  /** `cells` counts what all recordings of an archive hold together. */
  constructor(private readonly cells: { n: number }) {}

  push(bytes: Uint8Array, last: boolean): void {
    this.rest += this.decoder.decode(bytes, { stream: !last });
    let from = 0;
    for (;;) {
      const end = this.line < 2 ? recordEnd(this.rest, from) : this.rest.indexOf('\n', from);
      if (end < 0) break;
      this.take(this.rest.slice(from, end));
      from = end + 1;
    }
    this.rest = this.rest.slice(from);
    if (this.rest.length > LONGEST_LINE)
      throw refused('bad_table', `Line ${this.line + 1} of a recording is longer than any line there is.`);
    if (last && this.rest !== '') this.take(this.rest);
  }

  private take(text: string): void {
    this.line += 1;
    // Names and units stand in job.json; here they are for people.
    if (this.line <= 2) return;
    const cells = text.split(',');
    if (this.line === 3) this.columns = cells.length;
    if (this.columns > MOST_CHANNELS)
      throw refused('bad_table', `A recording has ${MOST_CHANNELS} channels at most, this one ${this.columns}.`);
    this.cells.n += cells.length;
    if (this.rows >= MOST_ROWS || this.cells.n > MOST_CELLS)
      throw refused('too_large', 'There are more samples in this archive than can be taken in.');
    if (cells.length !== this.columns)
      throw refused('bad_table', `Line ${this.line} of a recording has ${cells.length} cells instead of ${this.columns}.`);
    const block = Math.floor(this.rows / BLOCK_ROWS);
    const at = this.rows % BLOCK_ROWS;
    if (at === 0) for (let c = 0; c < this.columns; c += 1) (this.blocks[c] ??= []).push(new Float64Array(BLOCK_ROWS));
    for (let c = 0; c < this.columns; c += 1) {
      const cell = cells[c]!;
      const v = cell === '' ? NaN : Number(cell);
      if (cell !== '' && v !== v) throw refused('bad_table', `“${cell.slice(0, 20)}” in line ${this.line} of a recording is no figure.`);
      this.blocks[c]![block]![at] = v;
    }
    this.rows += 1;
  }

  /** Every block as it is stored, the last of a column cut to its rows. */
  stored(): Iterable<PlacedBlock> {
    return packedBlocks(this.blocks.map((list) => ({ blocks: list.map((b, i) => b.subarray(0, this.rows - i * BLOCK_ROWS)) })));
  }
}

interface Unfolded {
  readonly job: Uint8Array;
  readonly tables: ReadonlyMap<string, SampleTable>;
  readonly hashes: ReadonlySet<string>;
}

type Piece = { readonly file: string; readonly bytes: Uint8Array; readonly last: boolean };

/** Unfolds an archive as it comes in: files go straight to the store, tables into samples, job.json into a text. */
async function unfold(trx: Trx, body: AsyncIterable<Uint8Array>): Promise<Unfolded> {
  const pieces: Piece[] = [];
  let entries = 0;
  let wrong: Error | null = null;
  const unzip = new Unzip();
  unzip.register(UnzipInflate);
  unzip.onfile = (entry: UnzipFile) => {
    entries += 1;
    if (entries > MOST_ENTRIES) wrong = refused('too_many_files', 'There are too many files in this archive.');
    if (wrong || entry.name.endsWith('/')) return;
    entry.ondata = (error, bytes, last) => {
      if (error) wrong = refused('broken_archive', `“${entry.name.slice(0, 80)}” in this archive is broken. Export the job again.`);
      else pieces.push({ file: entry.name, bytes, last });
    };
    entry.start();
  };
  const json: Uint8Array[] = [];
  let jsonBytes = 0;
  let unfolded = 0;
  let sent = 0;
  const cells = { n: 0 };
  const tables = new Map<string, SampleTable>();
  const files = new Map<string, IncomingFile>();
  const hashes = new Set<string>();
  const drain = async (): Promise<void> => {
    if (wrong) throw wrong;
    for (const { file, bytes, last } of pieces.splice(0)) {
      unfolded += bytes.byteLength;
      if (unfolded > UNFOLDED_LIMIT_BYTES) throw refused('too_large', 'This archive unfolds to more than 4 GB.');
      if (unfolded > UNFOLDED_FREELY_BYTES && unfolded > MOST_UNFOLDED * sent)
        throw refused('too_large', `This archive unfolds to more than ${MOST_UNFOLDED} times what was sent: that is no job.`);
      if (file === 'job.json') {
        jsonBytes += bytes.byteLength;
        if (jsonBytes > JSON_LIMIT_BYTES) throw refused('too_large', 'The job.json of this archive is too large.');
        json.push(bytes.slice());
      } else if (/^logs\/[0-9a-f-]{36}\.csv$/.test(file)) {
        const table = tables.get(file) ?? new SampleTable(cells);
        tables.set(file, table);
        table.push(bytes, last);
      } else if (/^(originals|photos)\//.test(file)) {
        const incoming = files.get(file) ?? new IncomingFile(trx);
        files.set(file, incoming);
        await incoming.push(bytes.slice());
        if (last) hashes.add((await incoming.finish(trx)).hash);
      }
    }
  };
  try {
    for await (const chunk of body) {
      sent += chunk.byteLength;
      if (sent > PACKAGE_LIMIT_BYTES) throw refused('too_large', 'An archive has 1 GB at most.');
      unzip.push(chunk);
      await drain();
    }
    unzip.push(new Uint8Array(0), true);
  } catch (error) {
    if (error instanceof ServerProblem) throw error;
    if (error instanceof Error && /invalid|unexpected|bad/i.test(error.message) && !('severity' in error))
      throw refused('not_an_archive', 'This is not a zip archive, or it is broken. Export the job again.');
    throw error;
  }
  await drain();
  if (json.length === 0) throw refused('not_a_job', 'This is no job of Vanner: there is no job.json in it.');
  return { job: Buffer.concat(json, jsonBytes), tables, hashes };
}

const UUID = /[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/g;

/** Everything that an archive's documents call their own, by what it is. */
const ownedIds = (doc: PackageDoc) => ({
  job: [doc.job.id],
  log: doc.logs.map((x) => x.id),
  run: doc.runs.map((x) => x.id),
  strip_visit: doc.visits.map((x) => x.id),
  strip_pass: doc.passes.map((x) => x.id),
  prediction: doc.guesses.map((x) => x.id),
  practice: doc.practice.map((x) => x.id),
  sheet_event: doc.sheet.map((x) => x.event.id),
});

/** Refuses an archive that names a thing twice, or speaks of one that is not in it: it would be written into another job. */
function checkReferences(doc: PackageDoc): void {
  const owned = ownedIds(doc);
  const outside = (what: string): ServerProblem => refused('bad_job', `job.json: ${what} that is not in this archive.`);
  const all = Object.values(owned).flat();
  if (new Set(all).size !== all.length || new Set(doc.units.map((u) => u.id)).size !== doc.units.length)
    throw refused('bad_job', 'job.json: two things in this archive have the same id.');
  const has = (kind: keyof typeof owned) => new Set(owned[kind]);
  const [logs, visits] = [has('log'), has('strip_visit')];
  const former = { job: has('job'), run: has('run'), strip_visit: visits, strip_pass: has('strip_pass') };
  const units = new Set(doc.units.map((u) => u.id));
  if (doc.runs.some((r) => !logs.has(r.logId))) throw outside('a run is of a recording');
  if (doc.passes.some((p) => !visits.has(p.visitId))) throw outside('a pass is of a day at the strip');
  if (doc.history.some((h) => !former[h.kind].has(h.id))) throw outside('a former version is of a document');
  const sides = [...doc.runs.map((r) => r.doc.side), ...doc.passes.map((p) => p.doc.side)];
  const mentioned = [...sides.flatMap((s) => (s?.kind === 'unit' ? [s.unitId] : [])), ...doc.job.doc.pick.shown, doc.job.doc.pick.chosen];
  if (mentioned.some((u) => u !== null && !units.has(u))) throw outside('it speaks of a throttle');
}

/** Whether any of the ids is taken here already, by whatever job. */
async function anyTaken(trx: Trx, doc: PackageDoc): Promise<boolean> {
  for (const [table, ids] of Object.entries(ownedIds(doc))) {
    if (ids.length === 0) continue;
    const { rows } = await sql<{
      taken: boolean;
    }>`SELECT EXISTS (SELECT 1 FROM ${sql.table(table)} WHERE id = ANY(${ids}::uuid[])) AS taken`.execute(trx);
    if (rows[0]!.taken) return true;
  }
  return false;
}

/** New ids for what is taken in where the old ones are taken here; units that stand on this shelf already are used as they are. */
async function renamed(
  trx: Trx,
  doc: PackageDoc,
): Promise<{ doc: PackageDoc; units: ReadonlySet<string>; byOld: ReadonlyMap<string, string> }> {
  const names = new Map<string, string>();
  // Ids are kept where none of them is known here: a job that moves stays the same job. Where one is, all of them are new.
  if (await anyTaken(trx, doc)) for (const old of Object.values(ownedIds(doc)).flat()) names.set(old, crypto.randomUUID());
  const kept = new Set<string>();
  for (const unit of doc.units) {
    const same = await trx
      .selectFrom('unit')
      .select('id')
      .where(sql<boolean>`doc = ${JSON.stringify(unit.doc)}::jsonb`)
      .orderBy(sql`id = ${unit.id}::uuid`, 'desc')
      .executeTakeFirst();
    if (same) {
      kept.add(same.id);
      if (same.id !== unit.id) names.set(unit.id, same.id);
      continue;
    }
    const taken = await trx.selectFrom('unit').select('id').where('id', '=', unit.id).executeTakeFirst();
    if (taken) names.set(unit.id, crypto.randomUUID());
  }
  if (names.size === 0) return { doc, units: kept, byOld: names };
  const text = JSON.stringify(doc).replace(UUID, (old) => names.get(old) ?? old);
  return { doc: packageDoc.parse(JSON.parse(text)), units: kept, byOld: names };
}

export interface TakenIn {
  readonly id: string;
  readonly name: string;
  readonly runs: number;
  readonly passes: number;
  /** Units that were not on this shelf. */
  readonly units: number;
}

/**
 * Takes a whole job in from its archive, all of it or nothing. `read` makes its document of job.json: a server does it in a thread.
 * `last` is done in the same transaction, as its end.
 */
export async function takeInPackage(
  db: Db,
  body: AsyncIterable<Uint8Array>,
  read: (job: Uint8Array) => PackageDocument | Promise<PackageDocument> = packageDocument,
  last: (trx: Trx, taken: TakenIn) => Promise<void> = () => Promise.resolve(),
): Promise<TakenIn> {
  return db.transaction().execute(async (trx) => {
    const unfolded = await unfold(trx, body);
    const said = await read(unfolded.job);
    if (said.refused) throw refused(said.refused.code, said.refused.message);
    const original = said.doc;
    for (const f of original.files)
      if (!unfolded.hashes.has(f.hash)) throw refused('file_missing', `“${f.path}” is missing in this archive, or not what it was.`);
    checkReferences(original);
    const { doc, units, byOld } = await renamed(trx, original);
    await putPackage(trx, doc, { known: units, tables: unfolded.tables, byOld });
    await refreshFinding(trx, doc.job.id);
    const taken: TakenIn = {
      id: doc.job.id,
      name: doc.job.doc.name,
      runs: doc.runs.length,
      passes: doc.passes.length,
      units: doc.units.length - units.size,
    };
    await last(trx, taken);
    return taken;
  });
}
