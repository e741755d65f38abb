/** Writes samples/ anew from the seeded generator. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { drawnSheet, type SheetLook } from '@/core/stand-ins/sheet';
import { pngOf } from './png';
import { dynoFile } from '@/server/demo/dyno-files';
import { larkspurJob } from '@/server/demo/larkspur';
import { SAMPLE_RUNS } from '@/server/demo/runs';

/** Printed sheets to read a curve off: one as a scanner sees it, one as a phone does. */
const SHEETS: readonly (readonly [string, SheetLook])[] = [
  ['sheet-scanned', { seed: 3, width: 900, height: 640 }],
  ['sheet-photographed', { seed: 12, width: 720, height: 520, tilt: -0.05, slant: 0.12, noise: 6, blocks: 4 }],
];

mkdirSync('samples', { recursive: true });
for (const run of SAMPLE_RUNS) writeFileSync(join('samples', run.file), dynoFile(larkspurJob([]), run));
for (const [name, look] of SHEETS) writeFileSync(join('samples', `${name}.png`), pngOf(drawnSheet(look).raster));
console.log(`${SAMPLE_RUNS.length} sample files and ${SHEETS.length} sheets written to samples/`);
