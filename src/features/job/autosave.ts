import type { JobDoc, StoredJob } from '@/core/documents/job';
import { mergeDocuments, sameDocument } from '@/core/documents/merge';
import type { JobFindings } from '@/core/verdict/findings';
import { checksHere } from '@/ui/checks';
import { firstIssue, type JobStore } from './store';

/** Typing settles this long before it is saved. */
const SETTLE_MS = 500;
/** While the server or its database is away, saving is tried again this often. */
const RETRY_MS = 2000;

const draftKey = (id: string): string => `vanner-draft-${id}`;

interface Draft {
  readonly version: number;
  readonly doc: JobDoc;
}

/** A draft kept under a key of this browser's store, as it was written; null: there is none that can be read. */
function keptDraft(key: string, id: string): Draft | null {
  try {
    const raw = JSON.parse(localStorage.getItem(key) ?? 'null') as (Draft & { id?: string }) | null;
    return raw && (raw.id ?? id) === id ? { version: raw.version, doc: raw.doc } : null;
  } catch {
    return null;
  }
}

/** A kept draft with what an older release did not write filled in; null: it is no job. Without the checks it is taken as it is. */
function soundDraft(draft: Draft | null): Draft | null {
  const checks = checksHere();
  if (!draft || !checks) return draft;
  try {
    return { version: draft.version, doc: checks.readKept(checks.jobDoc, draft.doc) };
  } catch {
    return null;
  }
}

/** The last document this browser saw acknowledged: a page that was read before it was kept must not show the older one. */
const JUST_SAVED = 'vanner-just-saved';

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

  const found = store.getState();
  /** The document as this browser last knew it on the server: what has changed since, here and there, is told by it. */
  let base: JobDoc | null = found.doc;
  const unsent = keptDraft(draftKey(id), id);
  const acknowledged = keptDraft(JUST_SAVED, id);
  /** Goes on from what this browser kept: what was not sent, or what is newer than the page that was read. */
  const goOn = (): void => {
    const draft = soundDraft(unsent);
    if (draft && same(draft.doc, found.doc)) localStorage.removeItem(draftKey(id));
    else if (draft) {
      const theirs =
        draft.version === found.version
          ? null
          : { id, number: found.number, version: found.version, savedAt: found.savedAt, archived: false, doc: found.doc };
      if (theirs) base = null;
      // It stays a change of the version it was made on: of a later one it would go over what somebody else saved.
      store.setState({ doc: draft.doc, version: draft.version, save: theirs ? 'conflict' : 'unsaved', theirs, past: [found.doc] });
    } else {
      const kept = soundDraft(acknowledged);
      if (kept && kept.version > found.version) store.setState({ doc: kept.doc, version: kept.version, save: 'saved' });
    }
  };
  if (unsent ?? (acknowledged && acknowledged.version > found.version)) found.whenChecked(goOn);

  /** Somebody else saved meanwhile: what does not touch is merged and saved, what does is asked. */
  const meet = (current: StoredJob, findings: JobFindings | undefined): void => {
    const now = store.getState();
    const merged = base === null ? null : mergeDocuments(base, now.doc, current.doc);
    if (merged?.clashes.length === 0 && firstIssue(merged.mine, current.doc) === null) {
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
        ...(merged && firstIssue(merged.mine, current.doc) === null && { doc: merged.mine, past: [...now.past, now.doc] }),
        save: 'conflict',
        theirs: merged && firstIssue(merged.theirs, current.doc) === null ? { ...current, doc: merged.theirs } : current,
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
    const now = store.getState();
    if (now.waiting > 0 || !['saved', 'conflict'].includes(now.save)) event.preventDefault();
  };
  window.addEventListener('beforeunload', leave);
  return () => {
    clearTimeout(timer);
    stop();
    window.removeEventListener('beforeunload', leave);
    void store
      .getState()
      .settled()
      .then(() => save());
  };
}
