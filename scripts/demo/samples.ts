/** Writes samples/ anew from the seeded generator. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { dynoFile } from './dyno-files';
import { larkspurJob } from './larkspur';
import { SAMPLE_RUNS } from './runs';

mkdirSync('samples', { recursive: true });
for (const run of SAMPLE_RUNS) writeFileSync(join('samples', run.file), dynoFile(larkspurJob([]), run));
console.log(`${SAMPLE_RUNS.length} sample files written to samples/`);
