/** Warm times of a sum, in ms. */
export function timesOf(work: () => unknown, runs: number, warmUp: number): { median: number; worst: number } {
  for (let i = 0; i < warmUp; i += 1) work();
  const times: number[] = [];
  for (let i = 0; i < runs; i += 1) {
    const from = performance.now();
    work();
    times.push(performance.now() - from);
  }
  times.sort((a, b) => a - b);
  return { median: times[Math.floor(runs / 2)]!, worst: times[Math.floor(runs * 0.99)]! };
}

export const say = (name: string, value: number, unit: string, limit: number | null): void =>
  console.log(JSON.stringify({ name, value: Number(value.toFixed(3)), unit, limit, ok: limit === null || value <= limit }));
