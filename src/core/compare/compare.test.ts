import type { PowerRun } from '../runs/side-run';
import { runPeak } from './compare';

describe('a run’s peak', () => {
  const run = (rpm: number[], power_W: number[]): PowerRun => ({ rpm, power_W }) as unknown as PowerRun;

  it('is told smoothed and as measured, each where it stands, and what lies between', () => {
    const peak = runPeak(run([5000, 5500, 6000, 6500], [100e3, 118e3, 121e3, 110e3]), [101e3, 117e3, 116e3, 109e3]);
    expect(peak).toEqual({
      smoothed_W: 117e3,
      smoothed_rpm: 5500,
      unsmoothed_W: 121e3,
      unsmoothed_rpm: 6000,
      difference_W: 4e3,
    });
  });

  it('at the first sample is found too, and of two alike the first counts', () => {
    const peak = runPeak(run([3000, 4000, 5000], [90e3, 80e3, 90e3]), [88e3, 85e3, 88e3]);
    expect([peak.smoothed_rpm, peak.unsmoothed_rpm, peak.difference_W]).toEqual([3000, 3000, 2e3]);
  });
});
