'use client';

import type { Remote } from 'comlink';
import { useCallback, useEffect, useRef, useState } from 'react';
import { isPlane, planeOf, type Axes, type Pixel } from '@/core/picture/plane';
import type { Raster, TracedCurve, TraceOptions } from '@/core/picture/trace';
import { openThread, ThreadGone } from '@/ui/thread';
import type { TraceApi } from './trace.worker';

const AWAY =
  'What follows a line could not be fetched: the server cannot be reached. Put points on the line by hand, or click it again when it is back.';

const NO_LINE = 'No line of a colour of its own was found there. Click nearer to the line, or put points on it by hand.';

/** Longest side a picture is looked at with: more pixels tell no more and take longer. */
const MOST_PIXELS = 2400;

export interface Loaded {
  readonly id: number;
  readonly name: string;
  readonly bitmap: ImageBitmap;
  readonly width: number;
  readonly height: number;
}

/** The points of the axes as they are put: each with its place and the value written beside it. */
export interface Marks {
  readonly x1: Pixel | null;
  readonly x2: Pixel | null;
  readonly y1: Pixel | null;
  readonly y2: Pixel | null;
  readonly corners: readonly Pixel[];
}
export const MARK_NAMES = ['x1', 'x2', 'y1', 'y2'] as const;
export type MarkName = (typeof MARK_NAMES)[number];
export type MarkValues = Readonly<Record<MarkName, number | null>>;

export const NO_MARKS: Marks = { x1: null, x2: null, y1: null, y2: null, corners: [] };

/** The axes as far as they are put; null while one is missing. */
export function axesOf(marks: Marks, values: MarkValues): Axes | null {
  const point = (name: MarkName) => {
    const at = marks[name];
    const value = values[name];
    return at === null || value === null ? null : { at, value };
  };
  const [x1, x2, y1, y2] = MARK_NAMES.map(point);
  if (!x1 || !x2 || !y1 || !y2) return null;
  const { corners } = marks;
  return { x: [x1, x2], y: [y1, y2], ...(corners.length === 4 && { corners: corners as unknown as Axes['corners'] }) };
}

/** The range of the chart that a curve is looked for in: a little beyond the axis points. */
function rangeOf(axes: Axes, width: number, height: number): { x: [number, number]; y: [number, number] } | null {
  const plane = planeOf(axes);
  if (!isPlane(plane)) return null;
  const edge = [0, 0.25, 0.5, 0.75, 1].flatMap((k) => [
    plane.toValue({ x: k * width, y: 0 }),
    plane.toValue({ x: k * width, y: height }),
    plane.toValue({ x: 0, y: k * height }),
    plane.toValue({ x: width, y: k * height }),
  ]);
  const between = (points: readonly number[], seen: readonly number[]): [number, number] => {
    const [low, high] = [Math.min(...points), Math.max(...points)];
    const more = 0.3 * (high - low);
    return [Math.max(low - more, Math.min(...seen)), Math.min(high + more, Math.max(...seen))];
  };
  return {
    x: between(
      axes.x.map((p) => p.value),
      edge.map((p) => p.x),
    ),
    y: between(
      axes.y.map((p) => p.value),
      edge.map((p) => p.y),
    ),
  };
}

export interface PictureTracer {
  readonly picture: Loaded | null;
  readonly curve: TracedCurve | null;
  readonly busy: boolean;
  readonly wrong: string | null;
  readonly open: (file: File) => Promise<void>;
  readonly trace: (axes: Axes, click: Pixel) => Promise<void>;
  readonly setCurve: (curve: TracedCurve | null) => void;
}

/** A picture's pixels, for what follows a line on it. */
function rasterOf({ bitmap, width, height }: Loaded): Raster {
  const context = new OffscreenCanvas(width, height).getContext('2d')!;
  context.drawImage(bitmap, 0, 0);
  return { width, height, data: context.getImageData(0, 0, width, height).data };
}

/** The line at a click. The worker is given the picture where it has not got it: at the first click, or when it was begun anew. */
async function followed(worker: Remote<TraceApi>, picture: Loaded, axes: Axes, click: Pixel, range: TraceOptions) {
  const ask = () => worker.trace(picture.id, axes, click, range);
  const found = await ask();
  if (found !== 'not taken') return found;
  await worker.take(picture.id, rasterOf(picture));
  return ask();
}

/** A picture in hand and the curve traced on it; the tracing runs in a worker. */
export function usePicture(): PictureTracer {
  const [picture, setPicture] = useState<Loaded | null>(null);
  const [curve, setCurve] = useState<TracedCurve | null>(null);
  const [busy, setBusy] = useState(false);
  const [wrong, setWrong] = useState<string | null>(null);
  const worker = useRef<Remote<TraceApi> | null>(null);
  const opened = useRef(0);
  useEffect(() => {
    const thread = openThread<TraceApi>(() => new Worker(new URL('./trace.worker.ts', import.meta.url), { type: 'module' }));
    worker.current = thread.api;
    return () => {
      worker.current = null;
      thread.end();
    };
  }, []);
  const open = useCallback(async (file: File): Promise<void> => {
    setCurve(null);
    setWrong(null);
    try {
      const whole = await createImageBitmap(file);
      const scale = Math.min(1, MOST_PIXELS / Math.max(whole.width, whole.height));
      const [width, height] = [Math.round(whole.width * scale), Math.round(whole.height * scale)];
      const bitmap =
        scale === 1 ? whole : await createImageBitmap(whole, { resizeWidth: width, resizeHeight: height, resizeQuality: 'high' });
      opened.current += 1;
      setPicture({ id: opened.current, name: file.name, bitmap, width, height });
    } catch {
      setWrong('This file is no picture that can be opened here. PNG, JPEG and WebP are.');
    }
  }, []);
  const trace = useCallback(
    async (axes: Axes, click: Pixel): Promise<void> => {
      if (!picture || !worker.current) return;
      const range = rangeOf(axes, picture.width, picture.height);
      if (!range) return setWrong('The axis points do not span a chart: two must lie apart along each axis, with two different values.');
      setBusy(true);
      setWrong(null);
      try {
        const found = await followed(worker.current, picture, axes, click, range);
        if (found === null || typeof found === 'string' || found.points.length < 5) setWrong(NO_LINE);
        else setCurve(found);
      } catch (error) {
        setWrong(error instanceof ThreadGone ? AWAY : NO_LINE);
      } finally {
        setBusy(false);
      }
    },
    [picture],
  );
  return { picture, curve, busy, wrong, open, trace, setCurve };
}
