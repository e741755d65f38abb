/**
 * Reading a long log against the parser library doing nothing with its rows, each in a process of its own so that neither
 * warms the other; a workbook, a picture, and a comparison of six runs a side with its bands. `write FILE`, `ours FILE`,
 * `parser FILE`, `book FILE`, `sheet FILE`, `picture`, `compare`.
 */
import { createReadStream, readFileSync, writeFileSync } from 'node:fs';
import { utils, write } from '@e965/xlsx';
import Papa from 'papaparse';
import { compareSides } from '@/core/compare/sides';
import { isFailure } from '@/core/failure';
import { gaussian, seededRandom } from '@/core/numbers/random';
import { isPlane, planeOf } from '@/core/picture/plane';
import { traceCurve } from '@/core/picture/trace';
import { TableReader } from '@/core/read/reader';
import { drawnSheet } from '@/core/stand-ins/sheet';
import { ShopFileReader } from '@/server/read/file-reader';
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
  const side = (scale: number) => Array.from({ length: 6 }, (_, i) => ({ ...run(scale * (1 + 0.003 * gaussian(random))), order: i }));
  const [a, b] = [side(1), side(1.01)];
  const { median } = timesOf(
    () => {
      if (isFailure(compareSides(a, b, { fwhm_rpm: 100 }))) throw new Error('the runs do not compare');
    },
    5,
    1,
  );
  tell({ ms: median });
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
else if (what === 'ours') await ours(path!);
else if (what === 'parser') await parser(path!);
else compare();
