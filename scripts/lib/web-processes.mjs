/**
 * Several web processes behind one address: this process holds the address and hands connections round, the others answer. One
 * that ends by itself is begun again; when one cannot begin at all, this one ends too and leaves it to whoever began it.
 */
import cluster from 'node:cluster';
import { createRequire } from 'node:module';

/** Waits before a process that ended is begun again, ms: longer each time it ends soon after, and not for ever. */
const WAITS_ms = [200, 1000, 3000, 10_000];
/** A process that ran this long had begun well: its next end counts as its first, ms. */
const RAN_WELL_ms = 60_000;
/** Ends with what is still open after this, ms. */
const LAST_ms = 6000;

/** @param {number} count how many answer; @param {{signal: NodeJS.Signals, code: number}[]} ends what ends them, and with which code. */
export function keepProcesses(count, ends) {
  const require = createRequire(import.meta.url);
  const { RateLimiterClusterMaster } = require('rate-limiter-flexible');
  const { AggregatorRegistry } = require('prom-client');
  // Limits are of the address, not of a process.
  new RateLimiterClusterMaster();
  const measures = new AggregatorRegistry();
  let ending = false;
  let quick = 0;
  let answering = false;

  /** The first also works on the queue, as a server by itself does. */
  const begin = (slot) => {
    const since = Date.now();
    const child = cluster.fork(slot === 0 ? {} : { VANNER_WORKERS: '0' });
    child.on('message', (word) => void heard(child, word));
    child.once('exit', (code, signal) => {
      if (ending) return;
      // What keeps the first from beginning, a taken port say, keeps the next from it too: it has said so.
      if (!answering) return void process.exit(code ?? 1);
      if (Date.now() - since > RAN_WELL_ms) quick = 0;
      const wait = WAITS_ms[quick];
      quick += 1;
      if (wait === undefined) return void process.exit(1);
      console.error(`A web process ended by itself (${signal ?? code}); beginning it again.`);
      setTimeout(() => ending || begin(slot), wait);
    });
  };

  async function heard(from, word) {
    // What one process knows to be out of date, the others must not go on believing.
    if (word?.vanner === 'forget')
      for (const child of Object.values(cluster.workers)) if (child !== from && child.isConnected()) child.send(word);
    if (word?.vanner === 'measures') {
      const text = await measures.clusterMetrics().catch(() => null);
      if (from.isConnected()) from.send({ vanner: 'measures', id: word.id, text });
    }
  }

  for (const { signal, code } of ends)
    process.on(signal, () => {
      if (ending) return;
      ending = true;
      const children = Object.values(cluster.workers);
      let open = children.length;
      const gone = () => (open -= 1) <= 0 && process.exit(code);
      if (open === 0) gone();
      for (const child of children) {
        child.once('exit', gone);
        child.process.kill(signal);
      }
      setTimeout(() => process.exit(code), LAST_ms).unref();
    });

  // The others begin when the first answers: a start is not slower for them.
  cluster.once('listening', () => {
    answering = true;
    for (let slot = 1; slot < count; slot += 1) begin(slot);
  });
  begin(0);
}
