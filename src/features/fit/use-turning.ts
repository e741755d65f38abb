'use client';

import { useRef, useState, type KeyboardEvent, type PointerEvent, type RefObject } from 'react';
import type { UnitDoc } from '@/core/documents/unit';
import { follow } from '@/ui/drag';
import { useFingers } from '@/ui/use-fingers';
import { H, MID_X, MID_Y, W } from './face-geometry';

export type Clocking = NonNullable<UnitDoc['flange']>['clocking'];

const QUARTER = Math.PI / 2;
/** Snaps a turn to what the housing allows. */
function snapped(turn: number, clocking: 'as it is' | 'quarter turns' | 'free'): number {
  const round = clocking === 'quarter turns' ? Math.round(turn / QUARTER) * QUARTER : Math.round(turn / (Math.PI / 360)) * (Math.PI / 360);
  const whole = 2 * Math.PI;
  const within = ((((round + Math.PI) % whole) + whole) % whole) - Math.PI;
  return clocking === 'as it is' ? 0 : Math.abs(within + Math.PI) < 1e-9 ? Math.PI : within;
}

/** What is seen of the drawing: its upper left corner, and how near. */
interface View {
  readonly x: number;
  readonly y: number;
  readonly scale: number;
}
const WHOLE: View = { x: 0, y: 0, scale: 1 };
const MOST_SCALE = 6;
const ZOOM = 1.5;
const STEP_rad = Math.PI / 180;
const IDLE_TURN_rad = (3 * Math.PI) / 180;
/** The middle of the face, in shares of the drawing. */
const MIDDLE = { x: MID_X / W, y: MID_Y / H };

/** A view drawn nearer about a point of it, kept inside the drawing. */
function zoomed(view: View, by: number, at: { readonly x: number; readonly y: number }): View {
  const scale = Math.min(MOST_SCALE, Math.max(1, view.scale * by));
  const inside = (v: number, most: number): number => Math.min(Math.max(0, v), most);
  const x = view.x + at.x * (W / view.scale - W / scale);
  const y = view.y + at.y * (H / view.scale - H / scale);
  return { x: inside(x, W - W / scale), y: inside(y, H - H / scale), scale };
}

/** The drawing turned and drawn near by a mouse, two fingers, keys or buttons; what it is turned to is told when the hand lets go. */
export function useTurning(
  svg: RefObject<SVGSVGElement | null>,
  {
    clock_rad,
    clocking,
    onClock,
  }: { readonly clock_rad: number; readonly clocking: Clocking; readonly onClock: (clock_rad: number) => void },
) {
  const [turning, setTurning] = useState<number | null>(null);
  // Where the hand is now: it may let go before what it did last has been drawn.
  const turned = useRef<number | null>(null);
  const turnTo = (to_rad: number | null): void => {
    turned.current = to_rad;
    setTurning(to_rad);
  };
  const clock = turning ?? clock_rad;
  const [view, setView] = useState(WHOLE);
  const before = useRef<{ view: View; clock: number } | null>(null);
  const seen = { w: W / view.scale, h: H / view.scale };
  const angleAt = (e: { readonly clientX: number; readonly clientY: number }): number => {
    const box = svg.current!.getBoundingClientRect();
    const x = view.x + ((e.clientX - box.left) / box.width) * seen.w - MID_X;
    const y = MID_Y - (view.y + ((e.clientY - box.top) / box.height) * seen.h);
    return Math.atan2(y, x);
  };
  useFingers(svg, {
    onTurn: (by_rad) => {
      before.current ??= { view, clock };
      if (clocking === 'as it is') return;
      // A hand that only draws near also turns a little.
      turnTo(Math.abs(by_rad) < IDLE_TURN_rad ? before.current.clock : snapped(before.current.clock + by_rad, clocking));
    },
    onPinch: (by, at) => {
      before.current ??= { view, clock };
      setView(zoomed(before.current.view, by, at));
    },
    onEnd: () => {
      if (turned.current !== null && turned.current !== before.current?.clock) onClock(turned.current);
      before.current = null;
      turnTo(null);
    },
  });
  const grip = (e: PointerEvent<SVGElement>): void => {
    // One finger scrolls the page; two turn the drawing.
    if (clocking === 'as it is' || e.pointerType === 'touch') return;
    const from = angleAt(e);
    follow(e, {
      begin: () => turnTo(clock_rad),
      move: (now) => turnTo(snapped(clock_rad + angleAt(now) - from, clocking)),
      end: (how) => {
        if (how === 'let go' && turned.current !== null) onClock(turned.current);
        turnTo(null);
      },
    });
  };
  const key = (e: KeyboardEvent): void => {
    const step = clocking === 'quarter turns' ? QUARTER : ((e.shiftKey ? 15 : 1) * Math.PI) / 180;
    const way = { ArrowLeft: 1, ArrowUp: 1, ArrowRight: -1, ArrowDown: -1 }[e.key];
    if (way === undefined || clocking === 'as it is') return;
    e.preventDefault();
    onClock(snapped(clock + way * step, clocking));
  };

  const step = clocking === 'quarter turns' ? QUARTER : STEP_rad;
  return {
    clock,
    /** What is seen, as the drawing's view box. */
    box: `${view.x} ${view.y} ${seen.w} ${seen.h}`,
    scale: view.scale,
    /** Puts what is written on the sheet where it would be with nothing drawn nearer. */
    sheet: `translate(${view.x} ${view.y}) scale(${1 / view.scale})`,
    /** Where in the drawing a height of the sheet lies. */
    height: (y: number): number => view.y + y / view.scale,
    /** Where a point of the drawing then lies on the sheet, px. */
    onSheet: ({ x, y }: { readonly x: number; readonly y: number }) => ({ x: (x - view.x) * view.scale, y: (y - view.y) * view.scale }),
    /** By one step its housing allows: 1 to the left, −1 to the right. */
    turn: (way: 1 | -1): void => onClock(snapped(clock + way * step, clocking)),
    nearer: view.scale < MOST_SCALE ? (): void => setView(zoomed(view, ZOOM, MIDDLE)) : null,
    farther: view.scale > 1 ? (): void => setView(zoomed(view, 1 / ZOOM, MIDDLE)) : null,
    onKey: key,
    onGrip: grip,
  };
}
export type Turning = ReturnType<typeof useTurning>;
