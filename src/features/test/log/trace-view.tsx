'use client';

import { useCallback, useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { traceAt } from '@/core/logs/trace';
import { formatNumber } from '@/core/units/quantity';
import { follow } from '@/ui/drag';
import { usePrefs } from '@/ui/theme/prefs';
import type { Palette } from '@/ui/theme/tokens';
import { drawLane, type Lane, type View } from './draw-lane';
import styles from './log.module.css';

export interface MarkedSpan {
  readonly from_s: number;
  readonly to_s: number;
  readonly label: string;
  readonly chosen: boolean;
}

const LANE_px = 96;
const AXIS_px = 24;
const GUTTER_px = 118;
const TOP_px = 4;
const ZOOM = 1.25;
/** Nobody reads a stretch shorter than this, s. */
const SHORTEST_s = 0.02;

/** Seconds between ticks that keep their labels apart. */
function tickStep(span: number, width: number): number {
  const rough = (span / Math.max(1, width)) * 90;
  const power = 10 ** Math.floor(Math.log10(rough));
  return [1, 2, 5, 10].map((k) => k * power).find((s) => s >= rough) ?? rough;
}

interface Drawn {
  readonly lanes: readonly Lane[];
  readonly spans: readonly MarkedSpan[];
  readonly view: View;
  /** Of the whole, and of the part that is time, px. */
  readonly width: number;
  readonly height: number;
  readonly plot: number;
  readonly cursor: number | null;
  readonly palette: Palette;
}

/** Draws all of it anew: the marked spans, each lane with what it reads, the axis, the time looked at. */
function drawTraces(
  at: HTMLCanvasElement,
  g: CanvasRenderingContext2D,
  { lanes, spans, view, width, height, plot, cursor, palette }: Drawn,
): void {
  const dense = window.devicePixelRatio || 1;
  if (at.width !== Math.round(width * dense) || at.height !== Math.round(height * dense)) {
    at.width = Math.round(width * dense);
    at.height = Math.round(height * dense);
  }
  g.setTransform(dense, 0, 0, dense, 0, 0);
  g.clearRect(0, 0, width, height);
  g.font = '12px "Barlow Condensed", Barlow, sans-serif';
  g.textBaseline = 'middle';
  const x = (t: number): number => ((t - view[0]) / (view[1] - view[0])) * plot;
  for (const s of spans) {
    if (s.to_s < view[0] || s.from_s > view[1]) continue;
    g.fillStyle = `${palette.series[0]!}${s.chosen ? '2e' : '14'}`;
    g.fillRect(Math.max(0, x(s.from_s)), TOP_px, Math.min(plot, x(s.to_s)) - Math.max(0, x(s.from_s)), lanes.length * LANE_px);
    g.fillStyle = palette.quiet;
    g.fillText(s.label, Math.max(2, x(s.from_s) + 3), TOP_px + 8);
  }
  lanes.forEach((lane, k) => {
    const top = TOP_px + k * LANE_px + 6;
    g.save();
    g.beginPath();
    g.rect(0, top - 4, plot, LANE_px - 4);
    g.clip();
    const range = drawLane(g, lane, view, plot, top, LANE_px - 16);
    g.restore();
    g.strokeStyle = palette.hairline;
    g.lineWidth = 1;
    g.beginPath();
    g.moveTo(0, TOP_px + (k + 1) * LANE_px + 0.5);
    g.lineTo(plot, TOP_px + (k + 1) * LANE_px + 0.5);
    g.stroke();
    label(g, lane, range, cursor, plot + 8, top, palette.quiet);
  });
  axis(g, view, plot, TOP_px + lanes.length * LANE_px, palette.quiet, palette.hairline);
  if (cursor !== null && cursor >= view[0] && cursor <= view[1]) {
    g.strokeStyle = palette.ink;
    g.lineWidth = 1;
    g.beginPath();
    g.moveTo(Math.round(x(cursor)) + 0.5, TOP_px);
    g.lineTo(Math.round(x(cursor)) + 0.5, TOP_px + lanes.length * LANE_px);
    g.stroke();
  }
}

/**
 * Channels over time, each in a lane of its own. Dragged and zoomed at the screen's pace however long the log: a view costs
 * a few looks a pixel, and no spike is lost.
 */
export function TraceView({
  lanes,
  spans,
  duration_s,
  view,
  onView,
}: {
  lanes: readonly Lane[];
  spans: readonly MarkedSpan[];
  duration_s: number;
  view: View;
  onView: (view: View) => void;
}) {
  const { palette } = usePrefs();
  const box = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [width, setWidth] = useState(0);
  const [cursor, setCursor] = useState<number | null>(null);
  const plot = Math.max(1, width - GUTTER_px);
  const height = TOP_px + lanes.length * LANE_px + AXIS_px;
  const clamp = useCallback(
    ([from, to]: View): View => {
      const span = Math.max(SHORTEST_s, Math.min(to - from, duration_s));
      const start = Math.max(0, Math.min(from, duration_s - span));
      return [start, start + span];
    },
    [duration_s],
  );
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setWidth(Math.floor(entry!.contentRect.width)));
    observer.observe(box.current!);
    return () => observer.disconnect();
  }, []);
  useEffect(() => {
    const at = canvas.current;
    const g = at?.getContext('2d');
    if (!at || !g || width === 0) return;
    const frame = requestAnimationFrame(() => {
      drawTraces(at, g, { lanes, spans, view, width, height, plot, cursor, palette });
    });
    return () => cancelAnimationFrame(frame);
  }, [lanes, spans, view, width, height, plot, cursor, palette]);
  const zoom = useCallback(
    (factor: number, around: number) => {
      const [from, to] = view;
      onView(clamp([around - (around - from) * factor, around + (to - around) * factor]));
    },
    [view, onView, clamp],
  );
  useEffect(() => {
    const at = canvas.current!;
    const wheel = (e: WheelEvent): void => {
      e.preventDefault();
      const share = (e.clientX - at.getBoundingClientRect().left) / plot;
      zoom(e.deltaY > 0 ? ZOOM : 1 / ZOOM, view[0] + Math.min(1, Math.max(0, share)) * (view[1] - view[0]));
    };
    // React's own wheel listener is passive: it could not keep the page still.
    at.addEventListener('wheel', wheel, { passive: false });
    return () => at.removeEventListener('wheel', wheel);
  }, [zoom, view, plot]);
  const timeAt = (e: PointerEvent): number =>
    view[0] + ((e.clientX - canvas.current!.getBoundingClientRect().left) / plot) * (view[1] - view[0]);
  const slide = (e: PointerEvent): void =>
    follow(e, {
      move: (_, by) => {
        const shift = (-by.x / plot) * (view[1] - view[0]);
        onView(clamp([view[0] + shift, view[1] + shift]));
      },
      end: (how) => how === 'taken away' && onView(view),
    });
  const onKeyDown = (e: KeyboardEvent): void => {
    const span = view[1] - view[0];
    const by: Record<string, () => void> = {
      ArrowLeft: () => onView(clamp([view[0] - span * 0.1, view[1] - span * 0.1])),
      ArrowRight: () => onView(clamp([view[0] + span * 0.1, view[1] + span * 0.1])),
      '+': () => zoom(1 / ZOOM, view[0] + span / 2),
      '-': () => zoom(ZOOM, view[0] + span / 2),
      Home: () => onView([0, duration_s]),
    };
    const act = by[e.key];
    if (!act) return;
    e.preventDefault();
    act();
  };
  return (
    <div ref={box} className={styles['traces']}>
      <canvas
        ref={canvas}
        tabIndex={0}
        role="img"
        data-testid="traces"
        aria-label={`${lanes.map((l) => l.shown.label).join(', ')} over time, ${formatNumber(view[0], 1)} to ${formatNumber(view[1], 1)} s of ${formatNumber(duration_s, 1)} s. Arrow keys move, plus and minus zoom, Home shows all.`}
        style={{ width: '100%', height }}
        onPointerDown={slide}
        onPointerMove={(e) => setCursor(timeAt(e))}
        onPointerLeave={() => setCursor(null)}
        onDoubleClick={() => onView([0, duration_s])}
        onKeyDown={onKeyDown}
      />
    </div>
  );
}

function label(
  g: CanvasRenderingContext2D,
  lane: Lane,
  range: { low: number; high: number },
  cursor: number | null,
  x: number,
  top: number,
  quiet: string,
): void {
  const { shown, trace, color } = lane;
  g.fillStyle = color;
  g.font = '600 13px "Barlow Condensed", Barlow, sans-serif';
  g.fillText(shown.unit ? `${shown.label}, ${shown.unit}` : shown.label, x, top + 8);
  if (cursor !== null && trace.time_s.length > 0) {
    g.font = '600 19px "Barlow Condensed", Barlow, sans-serif';
    g.fillText(formatNumber(shown.show(traceAt(trace, cursor)), Math.max(shown.decimals, 1)), x, top + 32);
  }
  g.font = '12px "Barlow Condensed", Barlow, sans-serif';
  g.fillStyle = quiet;
  g.fillText(
    `${formatNumber(shown.show(range.low), shown.decimals)} to ${formatNumber(shown.show(range.high), shown.decimals)}`,
    x,
    top + 56,
  );
}

function axis(g: CanvasRenderingContext2D, [from, to]: View, width: number, y: number, quiet: string, hairline: string): void {
  const step = tickStep(to - from, width);
  g.fillStyle = quiet;
  g.strokeStyle = hairline;
  g.textAlign = 'center';
  const decimals = Math.max(0, -Math.floor(Math.log10(step)));
  for (let t = Math.ceil(from / step) * step; t <= to; t += step) {
    const x = ((t - from) / (to - from)) * width;
    g.beginPath();
    g.moveTo(x, y);
    g.lineTo(x, y + 4);
    g.stroke();
    if (x > 12 && x < width - 14) g.fillText(formatNumber(t, decimals), x, y + 14);
  }
  g.textAlign = 'left';
  g.fillText('s', width + 8, y + 14);
}
