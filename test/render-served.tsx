import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState, type ReactNode } from 'react';
import type { useImports } from '@/features/test/files/imports';
import { renderJob } from './render-job';

/** What comes to a page's files goes into a list, and nothing else happens. */
export const importsInto = (taken: File[]): ReturnType<typeof useImports> => ({
  items: [],
  take: (files) => taken.push(...files),
  paste: () => undefined,
  dismiss: () => undefined,
  choose: () => undefined,
  move: () => undefined,
  picture: null,
  closePicture: () => undefined,
});

/** A server that gives these answers by method and path, and what it was asked. */
export function serve(answers: Readonly<Record<string, unknown>>): { url: string; method: string; body: unknown }[] {
  const asked: { url: string; method: string; body: unknown }[] = [];
  globalThis.fetch = ((url: string, init?: RequestInit) => {
    const method = init?.method ?? 'GET';
    asked.push({ url, method, body: init?.body ? (JSON.parse(init.body as string) as unknown) : null });
    const found = Object.entries(answers).find(([key]) => `${method} ${url}`.startsWith(key))?.[1] ?? null;
    const refused = typeof found === 'object' && found !== null && 'refused' in found;
    return Promise.resolve({
      ok: !refused,
      status: refused ? 409 : 200,
      json: () => Promise.resolve(refused ? { message: (found as { refused: string }).refused } : found),
    } as Response);
  }) as typeof fetch;
  return asked;
}

/** Comes at a click: what is fetched as a part is shown is answered then. */
function Later({ children }: { children: ReactNode }) {
  const [on, setOn] = useState(false);
  return on ? children : <button onClick={() => setOn(true)}>go on</button>;
}

/** A part of the open job before a server that gives these answers; what it was asked. */
export async function renderServed(
  node: ReactNode,
  answers: Readonly<Record<string, unknown>>,
  options: Parameters<typeof renderJob>[1] = {},
) {
  renderJob(<Later>{node}</Later>, options);
  const asked = serve({ ...answers, 'GET /api/jobs/job-1/guesses': answers['GET /api/jobs/job-1/guesses'] ?? [] });
  await userEvent.click(screen.getByText('go on'));
  return asked;
}
