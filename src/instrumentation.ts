/** Begins with the server: its measures, threads for what takes long, and one worker inside it, unless it is told that others do the work. */
export async function register(): Promise<void> {
  if (process.env['NEXT_RUNTIME'] !== 'nodejs') return;
  const { log } = await import('./server/watch');
  log();
  const { keepSumThreads } = await import('./server/work/work-out');
  // While the app is worked on, what was just changed counts at once: in place.
  if (process.env.NODE_ENV === 'production') keepSumThreads();
  if (process.env['VANNER_WORKERS'] === '0' || !process.env['DATABASE_URL']) return;
  const { keepWorker } = await import('./server/queue/inside');
  keepWorker();
}
