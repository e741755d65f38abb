/** Runs scripts/edges.ts: how the engine holds at its edges. */
import { runBundled } from './lib/bundled.mjs';

process.exitCode = await runBundled('edges');
