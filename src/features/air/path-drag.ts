'use client';

import { useRef, useState } from 'react';
import { follow } from '@/ui/drag';
import type { SectionPiece } from './path-geometry';

/** A press that moves less than this is a click, px. */
const CLICK_PX = 5;
/** Bores follow the hand in steps of this, m. */
const BORE_STEP_m = 0.0005;
const BORE_LIMITS_m = [0.02, 0.29] as const;

type Grab = (e: React.PointerEvent<SVGElement>) => void;

const FIXED_PARTS = ['throttle', 'opening', 'plenum', 'compressor'];

/** Dragging a part of the drawing to another place in the path. The throttle, its opening and the end stay. */
export function useOrderDrag(
  pieces: readonly SectionPiece[],
  left: number,
  perMetre: number,
  onMove: (id: string, to: number) => void,
): {
  readonly dragged: string | null;
  readonly shift: number;
  /** Where the part would be put, m along the path; null while nothing is dragged. */
  readonly mark: number | null;
  readonly grab: (piece: SectionPiece) => Grab | undefined;
} {
  const [drag, setDrag] = useState<{ id: string; shift: number; to: number } | null>(null);
  const latest = useRef(drag);
  const target = (piece: SectionPiece, dx: number): number => {
    const along = (piece.from_m + piece.to_m) / 2 + dx / perMetre;
    const throttle = pieces.findIndex((p) => p.type === 'throttle');
    const before = pieces.slice(0, throttle).filter((p) => p.id !== piece.id && (p.from_m + p.to_m) / 2 < along).length;
    return before;
  };
  const grab = (piece: SectionPiece): Grab | undefined => {
    if (FIXED_PARTS.includes(piece.type)) return undefined;
    return (e) =>
      follow(e, {
        click_px: CLICK_PX,
        move: (_, by) => {
          latest.current = { id: piece.id, shift: by.x, to: target(piece, by.x) };
          setDrag(latest.current);
        },
        end: (how) => {
          const done = latest.current;
          latest.current = null;
          setDrag(null);
          const at = pieces.findIndex((p) => p.id === piece.id);
          if (how === 'let go' && done && done.to !== at) onMove(piece.id, done.to);
        },
      });
  };
  const others = drag ? pieces.filter((p) => p.id !== drag.id) : [];
  return {
    dragged: drag?.id ?? null,
    shift: drag?.shift ?? 0,
    mark: drag ? (others[drag.to]?.from_m ?? 0) : null,
    grab,
  };
}

/** Dragging a wall of the selected part: its bore follows the hand's distance from the axis. */
export function useBoreDrag({
  axisY,
  perMetre,
  hold,
}: {
  readonly axisY: number;
  readonly perMetre: number;
  readonly hold: (on: boolean) => void;
}): (set: (bore_m: number) => void) => Grab {
  return (set) => (e) => {
    e.stopPropagation();
    const svg = e.currentTarget.ownerSVGElement;
    if (!svg) return;
    const top = svg.getBoundingClientRect().top;
    follow(e, {
      click_px: CLICK_PX,
      begin: () => hold(true),
      move: (now) => {
        const wanted = (2 * (top + axisY - now.clientY)) / perMetre;
        const stepped = Math.round(wanted / BORE_STEP_m) * BORE_STEP_m;
        set(Math.round(Math.max(BORE_LIMITS_m[0], Math.min(BORE_LIMITS_m[1], stepped)) * 1e5) / 1e5);
      },
      end: () => hold(false),
    });
  };
}
