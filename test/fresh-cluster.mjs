/** A cluster for one test: its address on the first line; gone, data and all, when the input ends. */
import { rmSync } from 'node:fs';
import { Cluster } from '../scripts/lib/cluster.mjs';

const cluster = new Cluster(`fresh-${process.pid}`);
await cluster.startForNow();
console.log(cluster.url('postgres'));
process.stdin.resume();
process.stdin.on('end', async () => {
  await cluster.stop();
  rmSync(cluster.home, { recursive: true, force: true });
  rmSync(cluster.data, { recursive: true, force: true });
  process.exit(0);
});
