import type { PointerEvent as ReactPointerEvent } from 'react';

/** How a drag ended: by the hand, or taken from it by the browser (a page that began to scroll) or by Escape. */
export type DragEnd = 'let go' | 'taken away';

export interface Drag {
  /** It begins: not told of a press that is none, by another than the main button. */
  readonly begin?: () => void;
  /** The pointer is here now, `from` being where it was pressed; px on the screen. */
  readonly move: (now: { readonly clientX: number; readonly clientY: number }, by: { readonly x: number; readonly y: number }) => void;
  /** `moved`: farther than a click does. */
  readonly end?: (how: DragEnd, moved: boolean) => void;
  /** A press that moves less than this is a click, and is not told as a move, px; left out: every move is told. */
  readonly click_px?: number;
}

/**
 * Follows the pointer that was pressed, and no other, from its press until it is let go, wherever on the screen it goes. Only the
 * main button drags; others have their own menu.
 */
export function follow(press: ReactPointerEvent, { begin, move, end, click_px = 0 }: Drag): void {
  const { clientX, clientY, pointerId, button } = press;
  if (button > 0) return;
  begin?.();
  let moved = false;
  const moving = (event: PointerEvent): void => {
    if (event.pointerId !== pointerId) return;
    // Let go of where this page could not hear it: outside the window, or over a menu.
    if (event.pointerType === 'mouse' && event.buttons === 0) return done('let go');
    const by = { x: event.clientX - clientX, y: event.clientY - clientY };
    if (!moved && Math.hypot(by.x, by.y) < click_px) return;
    moved = true;
    move(event, by);
  };
  const done = (how: DragEnd): void => {
    window.removeEventListener('pointermove', moving);
    window.removeEventListener('pointerup', up);
    window.removeEventListener('pointercancel', cancel);
    window.removeEventListener('keydown', key, true);
    end?.(how, moved);
  };
  const up = (event: PointerEvent): void => {
    if (event.pointerId === pointerId) done('let go');
  };
  const cancel = (event: PointerEvent): void => {
    if (event.pointerId === pointerId) done('taken away');
  };
  const key = (event: KeyboardEvent): void => {
    if (event.key !== 'Escape') return;
    // The drag has it to itself: a dialog it is made in stays open.
    event.preventDefault();
    event.stopPropagation();
    done('taken away');
  };
  window.addEventListener('pointermove', moving);
  window.addEventListener('pointerup', up);
  window.addEventListener('pointercancel', cancel);
  window.addEventListener('keydown', key, true);
}
