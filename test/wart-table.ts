import { gaussian, seededRandom } from '@/core/numbers/random';
import type { PlainTable } from '@/core/stand-ins/table-file';

/** A small log with the kinds of figures logs have: a clock, whole numbers, decimals, negatives, holes. */
export function wartTable(seed = 7, rows = 90): PlainTable {
  const random = seededRandom(seed);
  return {
    names: ['Time', 'Engine speed', 'MAP', 'Correction', 'IAT'],
    units: ['s', 'rpm', 'kPa', '%', '°C'],
    rows: Array.from({ length: rows }, (_, i) => [
      Math.round(i * 2 + 1) / 100,
      Math.round(2000 + 40 * i + 5 * gaussian(random)),
      Math.round(100 * (92 + 4 * gaussian(random))) / 100,
      Math.round(1000 * gaussian(random)) / 1000,
      i % 10 === 5 ? null : Math.round(10 * (24 + 0.05 * i)) / 10,
    ]),
  };
}
