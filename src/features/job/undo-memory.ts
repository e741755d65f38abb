import { jobDoc, type JobDoc } from '@/core/documents/job';
import { sameDocument } from '@/core/documents/merge';
import type { JobStore } from './store';

/** Steps kept over a reload: enough to take back what one was at, little enough for the browser's store. */
const KEPT = 25;
const keyOf = (id: string): string => `vanner-undo-${id}`;

interface Memory {
  readonly doc: JobDoc;
  readonly past: readonly JobDoc[];
  readonly future: readonly JobDoc[];
}

const sound = (list: unknown): JobDoc[] => (Array.isArray(list) ? list.flatMap((d) => jobDoc.safeParse(d).data ?? []) : []);

function read(id: string): Memory | null {
  try {
    const raw = JSON.parse(sessionStorage.getItem(keyOf(id)) ?? 'null') as Partial<Memory> | null;
    const doc = jobDoc.safeParse(raw?.doc);
    return doc.success ? { doc: doc.data, past: sound(raw?.past), future: sound(raw?.future) } : null;
  } catch {
    return null;
  }
}

/**
 * Undo and redo live on over a reload of this window. They are only taken up where the document is still the one they lead
 * away from: steps of another state would undo what somebody else did. Returns how to stop.
 */
export function rememberUndo(store: JobStore): () => void {
  const { id, doc, past } = store.getState();
  const kept = read(id);
  if (kept && past.length === 0 && sameDocument(kept.doc, doc)) store.setState({ past: kept.past, future: kept.future });
  const keep = (): void => {
    const now = store.getState();
    if (now.past.length + now.future.length === 0) return;
    try {
      const memory: Memory = { doc: now.doc, past: now.past.slice(-KEPT), future: now.future.slice(-KEPT) };
      sessionStorage.setItem(keyOf(id), JSON.stringify(memory));
    } catch {
      // The browser's store is full: the document itself is safe, only the way back is shorter.
      sessionStorage.removeItem(keyOf(id));
    }
  };
  window.addEventListener('pagehide', keep);
  return () => {
    keep();
    window.removeEventListener('pagehide', keep);
  };
}
