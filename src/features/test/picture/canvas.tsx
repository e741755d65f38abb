'use client';

import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { isPlane, planeOf, type Axes, type Pixel } from '@/core/picture/plane';
import type { TracedCurve } from '@/core/picture/trace';
import { MARK_NAMES, type Loaded, type MarkName, type Marks } from './use-picture';
import styles from './picture.module.css';

/** What the next click on the picture puts. */
export type Putting = MarkName | 'corner' | 'curve' | 'point';

const LOUPE_px = 150;
const LOUPE_ZOOM = 5;
const LABEL: Readonly<Record<MarkName, string>> = { x1: 'x₁', x2: 'x₂', y1: 'y₁', y2: 'y₂' };

/** Draws the picture with the curve that was read off it and the marks that were put. */
function drawMarked(
  context: CanvasRenderingContext2D,
  { picture, marks, curve, plane }: { picture: Loaded; marks: Marks; curve: TracedCurve | null; plane: ReturnType<typeof planeOf> | null },
): void {
  context.drawImage(picture.bitmap, 0, 0);
  const unit = picture.width / 700;
  if (curve && plane && isPlane(plane)) {
    context.lineWidth = 2.2 * unit;
    context.strokeStyle = '#00b3a4';
    context.setLineDash([7 * unit, 4 * unit]);
    context.beginPath();
    curve.points.forEach((p, i) => {
      const { x, y } = plane.toPixel(p);
      if (i === 0) context.moveTo(x, y);
      else context.lineTo(x, y);
    });
    context.stroke();
    context.setLineDash([]);
  }
  const cross = (p: Pixel, colour: string, text: string): void => {
    const arm = 9 * unit;
    context.strokeStyle = colour;
    context.fillStyle = colour;
    context.lineWidth = 1.6 * unit;
    context.beginPath();
    context.moveTo(p.x - arm, p.y);
    context.lineTo(p.x + arm, p.y);
    context.moveTo(p.x, p.y - arm);
    context.lineTo(p.x, p.y + arm);
    context.stroke();
    context.font = `${14 * unit}px Barlow, sans-serif`;
    context.fillText(text, p.x + 6 * unit, p.y - 6 * unit);
  };
  for (const name of MARK_NAMES) {
    const at = marks[name];
    if (at) cross(at, name.startsWith('x') ? '#b5791a' : '#7b3b6b', LABEL[name]);
  }
  marks.corners.forEach((c, i) => cross(c, '#2f6690', `corner ${i + 1}`));
}

/** Draws what lies about the cross, larger. */
function drawLoupe(context: CanvasRenderingContext2D, of: HTMLCanvasElement, cross: Pixel): void {
  const side = LOUPE_px / LOUPE_ZOOM;
  context.imageSmoothingEnabled = false;
  context.clearRect(0, 0, LOUPE_px, LOUPE_px);
  context.drawImage(of, cross.x - side / 2, cross.y - side / 2, side, side, 0, 0, LOUPE_px, LOUPE_px);
  context.strokeStyle = '#b3261e';
  context.beginPath();
  context.moveTo(LOUPE_px / 2, 0);
  context.lineTo(LOUPE_px / 2, LOUPE_px);
  context.moveTo(0, LOUPE_px / 2);
  context.lineTo(LOUPE_px, LOUPE_px / 2);
  context.stroke();
}

/** The picture with its marks and the curve laid over it, and a loupe on where the pointer is. */
export function PictureCanvas({
  picture,
  marks,
  axes,
  curve,
  putting,
  onPut,
}: {
  picture: Loaded;
  marks: Marks;
  axes: Axes | null;
  curve: TracedCurve | null;
  putting: Putting;
  onPut: (at: Pixel) => void;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const loupe = useRef<HTMLCanvasElement>(null);
  const [cursor, setCursor] = useState<Pixel>({ x: picture.width / 2, y: picture.height / 2 });
  const [shown, setShown] = useState(false);
  const plane = axes && planeOf(axes);

  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context) return;
    drawMarked(context, { picture, marks, curve, plane });
  }, [picture, marks, curve, plane]);

  useEffect(() => {
    const context = loupe.current?.getContext('2d');
    if (!context || !canvas.current) return;
    drawLoupe(context, canvas.current, cursor);
  }, [cursor, marks, curve, picture]);

  const place = (e: PointerEvent<HTMLCanvasElement>): Pixel => {
    const box = e.currentTarget.getBoundingClientRect();
    return { x: ((e.clientX - box.left) / box.width) * picture.width, y: ((e.clientY - box.top) / box.height) * picture.height };
  };
  const keys = (e: KeyboardEvent): void => {
    const step = e.shiftKey ? 10 : e.altKey ? 0.25 : 1;
    const move: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };
    const way = move[e.key];
    if (way) {
      e.preventDefault();
      setShown(true);
      setCursor((c) => ({
        x: Math.min(picture.width, Math.max(0, c.x + way[0] * step)),
        y: Math.min(picture.height, Math.max(0, c.y + way[1] * step)),
      }));
    } else if (e.key === 'Enter' || e.key === ' ') {
      e.preventDefault();
      onPut(cursor);
    }
  };
  return (
    <div className={styles['picture']} style={{ aspectRatio: `${picture.width} / ${picture.height}` }}>
      <canvas
        ref={canvas}
        width={picture.width}
        height={picture.height}
        tabIndex={0}
        role="application"
        aria-label={`The picture ${picture.name}. Arrow keys move the cross by a pixel, with Shift by ten, with Alt by a quarter; Enter puts ${putting === 'curve' ? 'the click on the curve' : 'the point'}.`}
        data-testid="sheet"
        onPointerMove={(e) => {
          setShown(true);
          setCursor(place(e));
        }}
        onPointerLeave={() => setShown(false)}
        onPointerDown={(e) => onPut(place(e))}
        onKeyDown={keys}
      />
      {shown && (
        <>
          <span
            className={styles['cursor']}
            style={{ left: `${(100 * cursor.x) / picture.width}%`, top: `${(100 * cursor.y) / picture.height}%` }}
          />
          <canvas
            ref={loupe}
            width={LOUPE_px}
            height={LOUPE_px}
            className={styles['loupe']}
            data-left={cursor.x > picture.width / 2}
            aria-hidden="true"
          />
        </>
      )}
    </div>
  );
}
