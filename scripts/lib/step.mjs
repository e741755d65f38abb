/** One line a step, with the time it took. */
export async function step(title, work) {
  const from = performance.now();
  const note = await work();
  const seconds = ((performance.now() - from) / 1000).toFixed(1);
  console.log(`${title.padEnd(28, ' ')}${seconds.padStart(7)} s${note ? `  ${note}` : ''}`);
}

/** A problem whose sentence is all a person needs: no stack is printed for it. */
export class Plain extends Error {}

export function fail(error) {
  console.error(error instanceof Plain ? `\n${error.message}` : error);
  process.exit(1);
}
