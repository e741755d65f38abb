import { screen } from '@testing-library/react';
import type { SheetEventDoc } from '@/core/documents/sheet';
import { jobFindings } from '@/core/verdict/findings';
import { InstallStop } from '@/features/install/install-stop';
import { larkspur, renderJob, units } from './render-job';

/** A button by its label or its text: asking several hundred elements for their role takes seconds here. */
export const button = (name: RegExp): HTMLElement => screen.queryByLabelText(name) ?? screen.getByText(name).closest('button')!;

/** A server that keeps what it is given, unless `down` or told to refuse. */
function server(): { events: SheetEventDoc[]; down: boolean; refuse: string | null } {
  const state: { events: SheetEventDoc[]; down: boolean; refuse: string | null } = { events: [], down: false, refuse: null };
  globalThis.fetch = ((url: string, init?: RequestInit) => {
    const saved = {
      version: 2,
      savedAt: '2026-04-18T10:00:00Z',
      findings: jobFindings(larkspur, units, { stock: 0, other: 0, compared: null }),
    };
    if (!url.endsWith('/sheet')) return Promise.resolve({ ok: true, status: 200, json: () => Promise.resolve(saved) } as Response);
    if (state.down) return Promise.reject(new TypeError('network'));
    if (state.refuse !== null) {
      const message = state.refuse;
      return Promise.resolve({ ok: false, status: 409, json: () => Promise.resolve({ message }) } as Response);
    }
    const event = JSON.parse(String(init?.body)) as SheetEventDoc;
    if (!state.events.some((e) => e.id === event.id)) state.events = [...state.events, event];
    const answer = state.events;
    return Promise.resolve({ ok: true, status: 201, json: () => Promise.resolve(answer) } as Response);
  }) as typeof fetch;
  return state;
}

export const open = (written: SheetEventDoc[] = [], who = 'Maud') => {
  if (who !== '') localStorage.setItem('vanner-who', who);
  renderJob(<InstallStop written={written} />);
  return server();
};

let n = 0;
export const stamp = () => ({
  id: `00000000-0000-4000-8000-${String((n += 1)).padStart(12, '0')}`,
  who: 'Tobin',
  at_ms: 1_776_000_000_000,
});
export const done = (step: string): SheetEventDoc => ({ ...stamp(), type: 'done', step });
const passed = (gate: string): SheetEventDoc => ({ ...stamp(), type: 'passed', gate });
const CURES = ['spring', 'closed-stop', 'open-stop', 'coupler', 'clear', 'plug-in', 'threads'].map(done);
export const READY = [...CURES, ...['snap', 'travel', 'floor', 'seated', 'counted', 'nothing-left'].map(passed)];
