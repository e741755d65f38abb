/** A made-up log of a million rows by twenty channels, written piece by piece: what the reader, the parser and the page are timed on. */
import { closeSync, openSync, writeSync } from 'node:fs';

export const LOG_ROWS = 1_000_000;
export const LOG_COLUMNS = 20;
const TOGETHER = 2000;

/** One pull in the middle, spikes here and there, and nineteen channels at a hundred rows a second. */
function row(i: number): string {
  const t = i / 100;
  const pull = i > 400_000 && i < 400_900;
  const rpm = pull ? 2500 + (i - 400_000) * 4.5 : 2000 + 300 * Math.sin(t / 7);
  const cells = [t.toFixed(2), rpm.toFixed(0), pull ? '100.0' : '12.5', (95 + 4 * Math.sin(t)).toFixed(2), (rpm / 60).toFixed(2)];
  for (let c = cells.length; c < LOG_COLUMNS; c += 1) cells.push(i % 99_991 === c ? '999.9' : (20 + c + Math.sin(t * 0.01 * c)).toFixed(2));
  return cells.join(',');
}

/** Writes the log; resolves with its size in bytes. */
export function writeLongLog(path: string, rows = LOG_ROWS): number {
  const file = openSync(path, 'w');
  const names = ['Time (s)', 'Engine speed (rpm)', 'Throttle (%)', 'MAP (kPa)', 'Speed (km/h)'];
  for (let c = names.length; c < LOG_COLUMNS; c += 1) names.push(`Sensor ${c} (V)`);
  let size = writeSync(file, `${names.join(',')}\n`);
  for (let i = 0; i < rows; i += TOGETHER) {
    const lines: string[] = [];
    for (let k = i; k < Math.min(rows, i + TOGETHER); k += 1) lines.push(row(k));
    size += writeSync(file, `${lines.join('\n')}\n`);
  }
  closeSync(file);
  return size;
}
