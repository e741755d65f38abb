'use client';

import { useEffect, useRef, type RefObject } from 'react';

export interface Fingers {
  /** Two fingers were turned by this since they came down, rad, counter-clockwise on the screen. */
  readonly onTurn: (by_rad: number) => void;
  /** Two fingers were drawn apart by this factor since they came down, about this point of the element, in shares of its size. */
  readonly onPinch: (by: number, at: { readonly x: number; readonly y: number }) => void;
  readonly onEnd: () => void;
}

const pair = (touches: TouchList): { angle: number; apart: number; x: number; y: number } => {
  const [a, b] = [touches[0]!, touches[1]!];
  return {
    angle: Math.atan2(a.clientY - b.clientY, b.clientX - a.clientX),
    apart: Math.hypot(b.clientX - a.clientX, b.clientY - a.clientY),
    x: (a.clientX + b.clientX) / 2,
    y: (a.clientY + b.clientY) / 2,
  };
};

/**
 * Two fingers on a drawing turn it and draw it near; one finger is left to the page, which scrolls. Nothing is taken from the
 * browser before the second finger is down.
 */
export function useFingers(element: RefObject<SVGSVGElement | null>, fingers: Fingers): void {
  const told = useRef(fingers);
  useEffect(() => {
    told.current = fingers;
  });
  useEffect(() => {
    const el = element.current;
    if (!el) return;
    let from: ReturnType<typeof pair> | null = null;
    let turned = 0;
    let last = 0;
    const start = (e: TouchEvent): void => {
      if (e.touches.length !== 2) return;
      e.preventDefault();
      from = pair(e.touches);
      turned = 0;
      last = from.angle;
    };
    const move = (e: TouchEvent): void => {
      if (!from || e.touches.length !== 2) return;
      e.preventDefault();
      const now = pair(e.touches);
      // Over half a turn the angle jumps: what is counted is each step of it.
      const step = now.angle - last;
      turned += Math.atan2(Math.sin(step), Math.cos(step));
      last = now.angle;
      told.current.onTurn(turned);
      const box = el.getBoundingClientRect();
      told.current.onPinch(now.apart / Math.max(1, from.apart), { x: (from.x - box.left) / box.width, y: (from.y - box.top) / box.height });
    };
    const end = (): void => {
      if (!from) return;
      from = null;
      told.current.onEnd();
    };
    el.addEventListener('touchstart', start, { passive: false });
    el.addEventListener('touchmove', move, { passive: false });
    el.addEventListener('touchend', end);
    el.addEventListener('touchcancel', end);
    return () => {
      el.removeEventListener('touchstart', start);
      el.removeEventListener('touchmove', move);
      el.removeEventListener('touchend', end);
      el.removeEventListener('touchcancel', end);
    };
  }, [element]);
}
