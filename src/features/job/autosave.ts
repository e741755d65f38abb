import type { JobDoc, StoredJob } from '@/core/documents/job';
import { jobDoc } from '@/core/documents/job';
import { mergeDocuments, sameDocument } from '@/core/documents/merge';
import type { JobFindings } from '@/core/job/findings';
import type { JobStore } from './store';

/** Typing settles this long before it is saved. */
const SETTLE_MS = 500;
/** While the server or its database is away, saving is tried again this often. */
const RETRY_MS = 2000;

const draftKey = (id: string): string => `vanner-draft-${id}`;

interface Draft {
  readonly version: number;
  readonly doc: JobDoc;
}

function readDraft(id: string): Draft | null {
  try {
    const raw = JSON.parse(localStorage.getItem(draftKey(id)) ?? 'null') as Draft | null;
    const doc = raw && jobDoc.safeParse(raw.doc);
    return raw && doc?.success ? { version: raw.version, doc: doc.data } : null;
  } catch {
    return null;
  }
}

/** The last document this browser saw acknowledged: a page that was read before it was kept must not show the older one. */
const JUST_SAVED = 'vanner-just-saved';

function justSaved(id: string): Draft | null {
  try {
    const raw = JSON.parse(localStorage.getItem(JUST_SAVED) ?? 'null') as (Draft & { id: string }) | null;
    const doc = raw?.id === id ? jobDoc.safeParse(raw.doc) : null;
    return raw && doc?.success ? { version: raw.version, doc: doc.data } : null;
  } catch {
    return null;
  }
}

const same = (a: JobDoc, b: JobDoc): boolean => sameDocument(a, b);

type Outcome =
  | { readonly kind: 'saved'; readonly version: number; readonly savedAt: string; readonly findings: JobFindings }
  | { readonly kind: 'stale'; readonly current: StoredJob; readonly findings: JobFindings | undefined }
  | { readonly kind: 'refused'; readonly message: string }
  | { readonly kind: 'away'; readonly message: string | null };

async function put(id: string, version: number, doc: JobDoc): Promise<Outcome> {
  try {
    const response = await fetch(`/api/jobs/${id}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ version, doc }),
    });
    const answer = (await response.json()) as {
      version: number;
      savedAt: string;
      findings: JobFindings;
      current: StoredJob;
      message: string;
    };
    if (response.ok) return { kind: 'saved', ...answer };
    if (response.status === 409) return { kind: 'stale', current: answer.current, findings: answer.findings };
    if (response.status < 500) return { kind: 'refused', message: answer.message };
    // Why it cannot be kept is said where the server knows it: a full disk is mended otherwise than a lost line.
    return { kind: 'away', message: response.status === 507 ? answer.message : null };
  } catch {
    return { kind: 'away', message: null };
  }
}

/**
 * Saves the store's document whenever it has settled. What is not saved yet is kept in this browser too, so that neither
 * a lost server nor a closed tab loses typing. Returns how to stop.
 */
export function autosave(store: JobStore): () => void {
  const { id } = store.getState();
  let timer: ReturnType<typeof setTimeout> | undefined;
  let busy = false;

  const draft = readDraft(id);
  const found = store.getState();
  /** The document as this browser last knew it on the server: what has changed since, here and there, is told by it. */
  let base: JobDoc | null = found.doc;
  if (draft && same(draft.doc, found.doc)) localStorage.removeItem(draftKey(id));
  else if (draft) {
    const theirs =
      draft.version === found.version
        ? null
        : { id, number: found.number, version: found.version, savedAt: found.savedAt, archived: false, doc: found.doc };
    if (theirs) base = null;
    store.setState({ doc: draft.doc, save: theirs ? 'conflict' : 'unsaved', theirs, past: [found.doc] });
  } else {
    const kept = justSaved(id);
    if (kept && kept.version > found.version) store.setState({ doc: kept.doc, version: kept.version, save: 'saved' });
  }

  /** Somebody else saved meanwhile: what does not touch is merged and saved, what does is asked. */
  const meet = (current: StoredJob, findings: JobFindings | undefined): void => {
    const now = store.getState();
    const merged = base === null ? null : mergeDocuments(base, now.doc, current.doc);
    if (merged?.clashes.length === 0 && jobDoc.safeParse(merged.mine).success) {
      base = current.doc;
      store.setState({
        doc: merged.mine,
        version: current.version,
        savedAt: current.savedAt,
        findings: findings ?? now.findings,
        save: 'unsaved',
        past: [...now.past, now.doc],
        joined: { from: now.doc, to: merged.mine },
      });
    } else
      store.setState({
        // Only what both touched is left to choose between.
        ...(merged && jobDoc.safeParse(merged.mine).success && { doc: merged.mine, past: [...now.past, now.doc] }),
        save: 'conflict',
        theirs: merged && jobDoc.safeParse(merged.theirs).success ? { ...current, doc: merged.theirs } : current,
      });
  };

  const save = async (): Promise<void> => {
    const sent = store.getState();
    if (busy || (sent.save !== 'unsaved' && sent.save !== 'away')) return;
    busy = true;
    store.setState({ save: 'saving' });
    const outcome = await put(id, sent.version, sent.doc);
    busy = false;
    const now = store.getState();
    const edited = now.doc !== sent.doc;
    if (outcome.kind === 'saved') {
      base = sent.doc;
      if (!edited) {
        localStorage.setItem(JUST_SAVED, JSON.stringify({ id, version: outcome.version, doc: sent.doc }));
        localStorage.removeItem(draftKey(id));
      }
      store.setState({
        version: outcome.version,
        savedAt: outcome.savedAt,
        findings: outcome.findings,
        save: edited ? 'unsaved' : 'saved',
      });
    } else if (outcome.kind === 'stale' && same(outcome.current.doc, sent.doc)) {
      // Our own save, whose answer was lost on the way: nothing is at odds.
      base = sent.doc;
      store.setState({
        version: outcome.current.version,
        savedAt: outcome.current.savedAt,
        findings: outcome.findings ?? now.findings,
        save: edited ? 'unsaved' : 'saved',
      });
      if (!edited) localStorage.removeItem(draftKey(id));
    } else if (outcome.kind === 'stale') meet(outcome.current, outcome.findings);
    else if (outcome.kind === 'refused') store.setState({ save: 'refused', refusal: outcome.message });
    else store.setState({ save: 'away', refusal: outcome.message });
  };

  const plan = (ms: number): void => {
    clearTimeout(timer);
    timer = setTimeout(() => void save(), ms);
  };
  const stop = store.subscribe((s, before) => {
    if (s.doc !== before.doc && s.save !== 'saved') localStorage.setItem(draftKey(id), JSON.stringify({ version: s.version, doc: s.doc }));
    if (s.save === 'unsaved') plan(SETTLE_MS);
    else if (s.save === 'away' && before.save !== 'away') plan(RETRY_MS);
    else if (s.save === 'saved' && s.doc !== before.doc) localStorage.removeItem(draftKey(id));
  });
  if (store.getState().save === 'unsaved') plan(SETTLE_MS);
  const leave = (event: BeforeUnloadEvent): void => {
    if (!['saved', 'conflict'].includes(store.getState().save)) event.preventDefault();
  };
  window.addEventListener('beforeunload', leave);
  return () => {
    clearTimeout(timer);
    stop();
    window.removeEventListener('beforeunload', leave);
    void save();
  };
}
