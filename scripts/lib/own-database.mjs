import { Cluster } from './cluster.mjs';
import { ensureNpm, ensurePostgres } from './packages.mjs';
import { step } from './step.mjs';

/** Runs work on this installation's database, DATABASE_URL or its own cluster, which is stopped again if it was not running. */
export async function withDatabase(work) {
  await step('npm packages', ensureNpm);
  await step('PostgreSQL', ensurePostgres);
  if (process.env.DATABASE_URL) return work(process.env.DATABASE_URL);
  const cluster = new Cluster();
  let wasRunning = true;
  await step('database', async () => {
    const note = await cluster.start();
    wasRunning = note.startsWith('already');
    return note;
  });
  try {
    return await work(cluster.url());
  } finally {
    if (!wasRunning) await cluster.stop();
  }
}
