import '@testing-library/jest-dom';
import { randomUUID } from 'node:crypto';
import { TextDecoder, TextEncoder } from 'node:util';
import { configure } from '@testing-library/react';
import { freshOutbox } from '../src/features/offline/outbox';

// What is waited for may take its time on a busy machine.
configure({ asyncUtilTimeout: 15_000 });

Object.assign(globalThis, { TextDecoder, TextEncoder });
globalThis.crypto.randomUUID ??= randomUUID;

class Observer {
  observe(): void {}
  unobserve(): void {}
  disconnect(): void {}
}
globalThis.ResizeObserver ??= Observer as unknown as typeof ResizeObserver;
window.matchMedia ??= (query: string) =>
  ({
    matches: false,
    media: query,
    addEventListener: () => {},
    removeEventListener: () => {},
    addListener: () => {},
    removeListener: () => {},
  }) as unknown as MediaQueryList;

/** A channel that hands its messages over in a later task: all that the component library asks of one. */
class Channel {
  readonly port1: { onmessage: ((e: { data: unknown }) => void) | null; close: () => void } = { onmessage: null, close: () => {} };
  readonly port2 = {
    postMessage: (data: unknown): void => {
      setTimeout(() => this.port1.onmessage?.({ data }), 0);
    },
    close: (): void => {},
  };
}
globalThis.MessageChannel ??= Channel as unknown as typeof MessageChannel;

const computedStyle = window.getComputedStyle.bind(window);
window.getComputedStyle = (element: Element) => computedStyle(element);

// Each test has a browser of its own: what another one wrote does not wait in it.
beforeEach(() => void freshOutbox());
