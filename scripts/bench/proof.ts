/**
 * Reading a long log against the parser library doing nothing with its rows, each in a process of its own so that neither
 * warms the other, and a comparison of six runs a side with its bands. `write FILE`, `ours FILE`, `parser FILE`, `compare`.
 */
import { createReadStream } from 'node:fs';
import Papa from 'papaparse';
import { compareSides } from '@/core/compare/sides';
import { isFailure } from '@/core/failure';
import { gaussian, seededRandom } from '@/core/numbers/random';
import { TableReader } from '@/core/read/reader';
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
      if (isFailure(compareSides(a, b, { fwhm_rpm: 100, assumedSd_pct: 0.8 }))) throw new Error('the runs do not compare');
    },
    5,
    1,
  );
  tell({ ms: median });
}

const [what, path] = process.argv.slice(2);
if (what === 'write') tell({ bytes: writeLongLog(path!) });
else if (what === 'ours') await ours(path!);
else if (what === 'parser') await parser(path!);
else compare();
