import { rangeOf } from '@/core/logs/pyramid';
import { indexAt } from '@/core/logs/trace';
import type { DrawnTrace } from './log.worker';
import type { ShownChannel } from './quantities';

export interface Lane {
  readonly id: string;
  readonly shown: ShownChannel;
  readonly color: string;
  readonly trace: DrawnTrace;
}

/** The stretch of time that is drawn. */
export type View = readonly [from_s: number, to_s: number];

/** One lane: a vertical stroke a pixel column from the smallest to the largest sample in it, or the samples themselves joined. */
export function drawLane(
  g: CanvasRenderingContext2D,
  lane: Lane,
  [from, to]: View,
  width: number,
  top: number,
  height: number,
): { low: number; high: number } {
  const { time_s, value, pyramid } = lane.trace;
  const all = { low: NaN, high: NaN };
  rangeOf(value, pyramid, 0, value.length, all);
  const pad = (all.high - all.low || 1) * 0.06;
  const low = all.low - pad;
  const scale = height / (all.high + pad - low);
  const y = (v: number): number => top + height - (v - low) * scale;
  const first = Math.max(0, indexAt(time_s, from));
  const last = Math.min(value.length - 1, indexAt(time_s, to) + 1);
  g.strokeStyle = lane.color;
  g.lineWidth = 1.4;
  g.beginPath();
  if (last - first < 2 * width) {
    for (let i = first; i <= last; i += 1) {
      const x = ((time_s[i]! - from) / (to - from)) * width;
      if (i === first) g.moveTo(x, y(value[i]!));
      else g.lineTo(x, y(value[i]!));
    }
    g.stroke();
    return all;
  }
  const out = { low: 0, high: 0 };
  let i = first;
  for (let x = 0; x < width; x += 1) {
    const end = Math.min(last + 1, indexAt(time_s, from + ((x + 1) / width) * (to - from)) + 1);
    if (end <= i) continue;
    // One sample of the column before is in the stroke, so that a step between columns is joined.
    rangeOf(value, pyramid, Math.max(first, i - 1), end, out);
    const yl = y(out.low);
    const yh = y(out.high);
    g.moveTo(x + 0.5, yl);
    g.lineTo(x + 0.5, Math.abs(yl - yh) < 1 ? yl - 1 : yh);
    i = end;
  }
  g.stroke();
  return all;
}
