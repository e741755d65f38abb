import type { JobDoc } from '@/core/documents/job';
import { sameDocument } from '@/core/documents/merge';
import { checksHere } from '@/ui/checks';
import type { JobStore } from './store';

/** Steps kept over a reload: enough to take back what one was at, little enough for the browser's store. */
const KEPT = 25;
const keyOf = (id: string): string => `vanner-undo-${id}`;

interface Memory {
  readonly doc: JobDoc;
  readonly past: readonly JobDoc[];
  readonly future: readonly JobDoc[];
}

function read(id: string): Partial<Memory> | null {
  try {
    return JSON.parse(sessionStorage.getItem(keyOf(id)) ?? 'null') as Partial<Memory> | null;
  } catch {
    return null;
  }
}

/** What was remembered as far as it is jobs; steps nobody can check are not gone back to. */
function sound(raw: Partial<Memory>): Memory | null {
  const checks = checksHere();
  if (!checks) return null;
  const job = (kept: unknown): JobDoc[] => {
    try {
      return [checks.readKept(checks.jobDoc, kept)];
    } catch {
      return [];
    }
  };
  const jobs = (list: unknown): JobDoc[] => (Array.isArray(list) ? list.flatMap(job) : []);
  const [doc] = job(raw.doc);
  return doc ? { doc, past: jobs(raw.past), future: jobs(raw.future) } : null;
}

/**
 * Undo and redo live on over a reload of this window. They are only taken up where the document is still the one they lead
 * away from: steps of another state would undo what somebody else did. Returns how to stop.
 */
export function rememberUndo(store: JobStore): () => void {
  const { id, whenChecked } = store.getState();
  const raw = read(id);
  if (raw)
    whenChecked(() => {
      const { doc, past } = store.getState();
      const kept = sound(raw);
      if (kept && past.length === 0 && sameDocument(kept.doc, doc)) store.setState({ past: kept.past, future: kept.future });
    });
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
