import '@testing-library/jest-dom';
import { randomUUID } from 'node:crypto';
import { TextDecoder, TextEncoder } from 'node:util';
import * as React from 'react';
import { configure } from '@testing-library/react';
import * as schemas from '../src/core/documents/schemas';
import { freshOutbox } from '../src/features/offline/outbox';
import { giveChecks } from '../src/ui/checks';

// What is waited for may take its time on a busy machine.
configure({ asyncUtilTimeout: 15_000 });

// React's development build takes a stack trace for every element it makes, to name who made one when it warns: a quarter of
// what these tests take. It stops by itself past some ten thousand in a second; here it has always had so many.
const shared = (React as unknown as Record<string, object>)['__CLIENT_INTERNALS_DO_NOT_USE_OR_WARN_USERS_THEY_CANNOT_UPGRADE'];
if (shared) Object.defineProperty(shared, 'recentlyCreatedOwnerStacks', { get: () => Infinity, set: () => {} });

Object.assign(globalThis, { TextDecoder, TextEncoder });
globalThis.crypto.randomUUID ??= randomUUID;

class Observer {
  observe(): void {}
  unobserve(): void {}
  disconnect(): void {}
}
/** Everything is in view: a page without a layout has no below. */
class InView extends Observer {
  constructor(private readonly seen: (entries: readonly { isIntersecting: boolean }[]) => void) {
    super();
  }
  override observe(): void {
    this.seen([{ isIntersecting: true }]);
  }
}
globalThis.IntersectionObserver ??= InView as unknown as typeof IntersectionObserver;
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

// Somebody has been at the page before a test begins: a test of the moment before takes the checks away.
beforeEach(() => giveChecks(schemas));
