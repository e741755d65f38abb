/** Runs scripts/trust.ts: how often the inference claims what is not so. */
import { runBundled } from './lib/bundled.mjs';

process.exitCode = await runBundled('trust');
