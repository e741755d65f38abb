import { act, fireEvent, render, screen } from '@testing-library/react';
import { follow, type DragEnd } from './drag';

const told: string[] = [];
beforeEach(() => void told.splice(0));

function Bar({ click_px, begin }: { click_px?: number; begin?: () => void }) {
  return (
    <button
      onPointerDown={(e) =>
        follow(e, {
          ...(click_px && { click_px }),
          ...(begin && { begin }),
          move: (now, by) => told.push(`${now.clientX}: ${by.x}, ${by.y}`),
          end: (how: DragEnd, moved) => told.push(`${how}, ${moved ? 'moved' : 'a click'}`),
        })
      }
    >
      bar
    </button>
  );
}
/** The test's browser knows no pointers, only what a mouse does. */
function send(to: EventTarget, kind: string, { pointerId = 1, pointerType = 'mouse', ...at }: Partial<PointerEventInit>): void {
  act(() => void to.dispatchEvent(Object.assign(new MouseEvent(kind, { bubbles: true, buttons: 1, ...at }), { pointerId, pointerType })));
}
const press = (): void => send(screen.getByRole('button'), 'pointerdown', { clientX: 100, clientY: 50 });
const pointer = (kind: 'pointermove' | 'pointerup' | 'pointercancel', at: Partial<PointerEventInit> = {}): void => send(window, kind, at);

it('tells where the pointer is and how far it came, wherever it goes, until it is let go', () => {
  render(<Bar />);
  press();
  pointer('pointermove', { clientX: 130, clientY: 40 });
  pointer('pointermove', { clientX: 90, clientY: 50 });
  pointer('pointerup');
  pointer('pointermove', { clientX: 500, clientY: 50 });
  expect(told).toEqual(['130: 30, -10', '90: -10, 0', 'let go, moved']);
});

it('takes a small move for a click', () => {
  render(<Bar click_px={5} />);
  press();
  pointer('pointermove', { clientX: 103, clientY: 51 });
  pointer('pointerup');
  expect(told).toEqual(['let go, a click']);
  press();
  pointer('pointermove', { clientX: 106, clientY: 50 });
  // Once it moved it is a drag, back where it began too.
  pointer('pointermove', { clientX: 100, clientY: 50 });
  pointer('pointerup');
  expect(told.slice(1)).toEqual(['106: 6, 0', '100: 0, 0', 'let go, moved']);
});

it('is not led by another finger', () => {
  render(<Bar />);
  press();
  pointer('pointermove', { pointerId: 2, clientX: 300, clientY: 0 });
  pointer('pointerup', { pointerId: 2 });
  pointer('pointercancel', { pointerId: 2 });
  expect(told).toEqual([]);
  pointer('pointerup');
  expect(told).toEqual(['let go, a click']);
});

it('ends where a mouse was let go of unheard, and never begins with another button', () => {
  const begin = jest.fn();
  render(<Bar begin={begin} />);
  press();
  pointer('pointermove', { clientX: 130, clientY: 50 });
  pointer('pointermove', { clientX: 150, clientY: 50, buttons: 0 });
  pointer('pointermove', { clientX: 170, clientY: 50 });
  expect(told.splice(0)).toEqual(['130: 30, 0', 'let go, moved']);
  send(screen.getByRole('button'), 'pointerdown', { clientX: 100, clientY: 50, button: 2, buttons: 2 });
  pointer('pointermove', { clientX: 130, clientY: 50, buttons: 2 });
  expect(told).toEqual([]);
  expect(begin).toHaveBeenCalledTimes(1);
});

it('is taken away by a page that begins to scroll, and by Escape, which nobody else then hears', () => {
  const heard = jest.fn();
  render(
    <div onKeyDown={heard}>
      <Bar />
    </div>,
  );
  press();
  pointer('pointermove', { clientX: 130, clientY: 50 });
  pointer('pointercancel');
  expect(told).toEqual(['130: 30, 0', 'taken away, moved']);
  press();
  fireEvent.keyDown(screen.getByRole('button'), { key: 'ArrowLeft' });
  expect(heard).toHaveBeenCalledTimes(1);
  fireEvent.keyDown(screen.getByRole('button'), { key: 'Escape' });
  expect(heard).toHaveBeenCalledTimes(1);
  pointer('pointermove', { clientX: 400, clientY: 50 });
  expect(told.slice(2)).toEqual(['taken away, a click']);
  fireEvent.keyDown(screen.getByRole('button'), { key: 'Escape' });
  expect(heard).toHaveBeenCalledTimes(2);
});
