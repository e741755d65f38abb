/**
 * Reading a long log against the parser library doing nothing with its rows, each in a process of its own so that neither
 * warms the other; a workbook, a picture, a comparison of twelve runs a side with its band, and passes at the strip.
 * `write FILE`, `ours FILE`, `parser FILE`, `book FILE`, `sheet FILE`, `picture`, `strip DAYS`, `compare`.
 */
import { createReadStream, readFileSync, writeFileSync } from 'node:fs';
import { utils, write } from '@e965/xlsx';
import Papa from 'papaparse';
import { compareSides } from '@/core/compare/sides';
import type { StripBook } from '@/core/documents/strip';
import { isFailure } from '@/core/failure';
import { analyseStrip } from '@/core/strip/analyse';
import { gaussian, seededRandom } from '@/core/numbers/random';
import { isPlane, planeOf } from '@/core/picture/plane';
import { traceCurve } from '@/core/picture/trace';
import { TableReader } from '@/core/read/reader';
import { drawnSheet } from '@/core/stand-ins/sheet';
import { ShopFileReader } from '@/server/read/file-reader';
import { stripBook, UNIT_ID } from '../../test/facts';
import { writeLongLog } from './long-log';
import { timesOf } from './measure';

const PIECE = 1 << 20;
const tell = (value: object): void => console.log(JSON.stringify(value));

async function ours(path: string): Promise<void> {
  const from = performance.now();
  const reader = new TableReader();
  for await (const piece of createReadStream(path, { highWaterMark: PIECE })) reader.push(piece as Uint8Array);
  const read = reader.finish();
  if (read.refused !== null) throw new Error(read.refused);
  tell({ ms: performance.now() - from, rows: read.report.rows, peak_MB: process.resourceUsage().maxRSS / 1024 });
}

function parser(path: string): Promise<void> {
  const from = performance.now();
  let rows = 0;
  return new Promise((resolve) => {
    Papa.parse(createReadStream(path, { highWaterMark: PIECE, encoding: 'utf8' }), {
      step: () => {
        rows += 1;
      },
      complete: () => {
        tell({ ms: performance.now() - from, rows });
        resolve();
      },
    });
  });
}

function compare(): void {
  const random = seededRandom(6);
  const rpm = Array.from({ length: 600 }, (_, i) => 2000 + 8 * i);
  const run = (scale: number) => ({ rpm, power_W: rpm.map((n) => 20 * n * scale * (1 + 0.006 * gaussian(random))) });
  // Stock, new, stock, new: six runs a stay.
  const side = (scale: number, first: number) =>
    Array.from({ length: 12 }, (_, i) => ({ ...run(scale * (1 + 0.003 * gaussian(random))), order: first + i + (i >= 6 ? 6 : 0) }));
  const [a, b] = [side(1, 0), side(1.01, 6)];
  const { median } = timesOf(
    () => {
      if (isFailure(compareSides(a, b, { fwhm_rpm: 100 }))) throw new Error('the runs do not compare');
    },
    5,
    1,
  );
  tell({ ms: median });
}

/** What the strip's worker does at each typed pass: sixty passes of one day or shared among several, every measure. */
function strip(days: number): void {
  const one = stripBook(60 / days, 0.02);
  const books: StripBook = {
    visits: Array.from({ length: days }, (_, d) => {
      const [v] = one.visits;
      return { ...v!, id: `day ${d}`, doc: { ...v!.doc, takenOn: `2026-04-${String(11 + 7 * d)}` } };
    }),
    passes: Array.from({ length: days }, (_, d) => one.passes.map((p) => ({ ...p, id: `${p.id} ${d}`, visitId: `day ${d}` }))).flat(),
  };
  const { median } = timesOf(() => analyseStrip(books, { kind: 'na', unitId: UNIT_ID }), 5, 1);
  tell({ ms: median, passes: books.passes.length });
}

/** A workbook of about five megabytes, as a logger's own program saves one. */
function book(path: string): void {
  const grid: (string | number)[][] = [Array.from({ length: 20 }, (_, c) => (c === 0 ? 'Time (s)' : c === 1 ? 'RPM' : `Sensor ${c} (V)`))];
  for (let i = 0; i < 18_500; i += 1)
    grid.push(
      Array.from({ length: 20 }, (_, c) =>
        c === 0 ? i / 100 : c === 1 ? 2000 + (i % 5000) : Math.round(1e4 * Math.sin(0.001 * i * c)) / 1e4,
      ),
    );
  const sheets = utils.book_new();
  utils.book_append_sheet(sheets, utils.aoa_to_sheet(grid), 'Log');
  const bytes = write(sheets, { type: 'buffer', bookType: 'xlsx', compression: true }) as Buffer;
  writeFileSync(path, bytes);
  tell({ bytes: bytes.length });
}

/** The workbook read as the server's thread reads it. */
function sheet(path: string): void {
  const bytes = new Uint8Array(readFileSync(path));
  const from = performance.now();
  const reader = new ShopFileReader();
  reader.push(bytes);
  const read = reader.finish();
  if (read.refused !== null || read.report.rows !== 18_500) throw new Error('the workbook was not read');
  tell({ ms: performance.now() - from, MB: bytes.length / 1e6, peak_MB: process.resourceUsage().maxRSS / 1024 });
}

/** One click on a photographed sheet of two megapixels. */
function picture(): void {
  const drawn = drawnSheet({ seed: 12, width: 1700, height: 1200, tilt: -0.05, slant: 0.12, noise: 6, blocks: 4 });
  const plane = planeOf(drawn.axes);
  if (!isPlane(plane)) throw new Error(plane);
  const { median } = timesOf(
    () => {
      if (!traceCurve(drawn.raster, plane, drawn.at({ x: 4000, y: drawn.power(4000) }), drawn.range)) throw new Error('nothing was traced');
    },
    3,
    1,
  );
  tell({ ms: median });
}

const [what, path] = process.argv.slice(2);
if (what === 'write') tell({ bytes: writeLongLog(path!) });
else if (what === 'book') book(path!);
else if (what === 'sheet') sheet(path!);
else if (what === 'picture') picture();
else if (what === 'strip') strip(Number(path));
else if (what === 'ours') await ours(path!);
else if (what === 'parser') await parser(path!);
else compare();
