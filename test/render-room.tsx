import { App } from 'antd';
import { render } from '@testing-library/react';
import { NuqsTestingAdapter, type OnUrlUpdateFunction } from 'nuqs/adapters/testing';
import type { ReactNode } from 'react';
import type { PackName } from '@/core/units/measures';
import { PrefsProvider } from '@/ui/theme/prefs';

/** One request a room made. */
export interface Sent {
  readonly method: string;
  readonly url: string;
  readonly body: unknown;
}

type Answer = (sent: Sent) => { readonly status?: number; readonly body: unknown };

/** Renders a room outside any job, on a server that answers as told, and remembers what it was sent and where the address went. */
export function renderRoom(
  node: ReactNode,
  { pack = 'metric', address = '', answer = () => ({ body: {} }) }: { pack?: PackName; address?: string; answer?: Answer } = {},
): { sent: Sent[]; addresses: string[] } {
  const sent: Sent[] = [];
  const addresses: string[] = [];
  globalThis.fetch = ((url: string, init?: RequestInit) => {
    const request: Sent = {
      method: init?.method ?? 'GET',
      url,
      body: typeof init?.body === 'string' ? (JSON.parse(init.body) as unknown) : init?.body,
    };
    sent.push(request);
    const { status = 200, body } = answer(request);
    return Promise.resolve({ ok: status < 400, status, json: () => Promise.resolve(body) } as Response);
  }) as typeof fetch;
  const onUrlUpdate: OnUrlUpdateFunction = ({ queryString }) => void addresses.push(queryString);
  render(
    <NuqsTestingAdapter hasMemory searchParams={address} onUrlUpdate={onUrlUpdate}>
      <PrefsProvider pack={pack} theme="light">
        <App>{node}</App>
      </PrefsProvider>
    </NuqsTestingAdapter>,
  );
  return { sent, addresses };
}
