import { createStore, type StoreApi } from 'zustand/vanilla';
import { issuesOf, type Issue } from '@/core/documents/issue';
import { jobDoc, type JobDoc, type Provenance, type StoredJob } from '@/core/documents/job';
import type { JobFindings } from '@/core/job/findings';
import { followed, partMark } from '@/core/job/follow';
import { withValue } from './paths';

export type SaveState = 'saved' | 'unsaved' | 'saving' | 'away' | 'conflict' | 'refused';

export interface JobState {
  readonly id: string;
  readonly number: number;
  readonly doc: JobDoc;
  readonly version: number;
  readonly savedAt: string;
  readonly findings: JobFindings;
  readonly save: SaveState;
  /** Why the server refused a save, in its words. */
  readonly refusal: string | null;
  /** The newer version somebody else saved, while there is a conflict. */
  readonly theirs: StoredJob | null;
  /** Values typed that do not go with the rest of the document yet, by path, with what is wrong. */
  readonly pending: Readonly<Record<string, Issue & { readonly value: unknown }>>;
  /** What another window or person changed meanwhile and was taken in beside one's own; null: nothing was. */
  readonly joined: { readonly from: JobDoc; readonly to: JobDoc } | null;
  readonly past: readonly JobDoc[];
  readonly future: readonly JobDoc[];
}

export interface JobActions {
  /** Sets one value; what does not go with the rest stays pending with its reason, and the document as it was. */
  readonly set: (path: string, value: unknown, mark?: Provenance) => void;
  /** Replaces the document by a change of it; returns what is wrong when it is not a valid one. */
  readonly change: (edit: (doc: JobDoc) => JobDoc) => Issue | null;
  readonly undo: () => void;
  readonly redo: () => void;
  readonly takeTheirs: () => void;
  readonly keepMine: () => void;
}

export type JobStore = StoreApi<JobState & JobActions>;

/** Undo remembers this many edits; edits of one field within a moment are one. */
const UNDO_DEPTH = 200;
const ONE_EDIT_MS = 700;

/** First thing that is wrong with a document, or null. */
export function firstIssue(doc: JobDoc): Issue | null {
  const parsed = jobDoc.safeParse(doc);
  if (parsed.success) return null;
  return issuesOf(parsed.error)[0]!;
}

/** Key of a figure among the marks: the car's by its path, an intake part's by the part; null: it carries none. */
function markKey(doc: JobDoc, path: string): string | null {
  if (path.startsWith('car.')) return path.replace(/^car\./, '');
  const [, index, field] = /^air\.parts\.(\d+)\.(\w+)$/.exec(path) ?? [];
  const part = index === undefined ? undefined : doc.air.parts[Number(index)];
  return part && field !== undefined ? partMark(part.id, field) : null;
}

function applied(doc: JobDoc, path: string, value: unknown, mark: Provenance | undefined): JobDoc {
  const next = withValue(doc, path, value);
  const key = markKey(doc, path);
  const marked =
    key === null ? next : { ...next, marks: { ...next.marks, [key]: mark ?? (next.marks[key] === 'measured' ? 'measured' : 'entered') } };
  return followed(doc, marked);
}

export function createJobStore(job: StoredJob, findings: JobFindings, now: () => number): JobStore {
  let lastEdit = { path: '', at: 0 };
  return createStore<JobState & JobActions>((set, get) => {
    /** Makes a valid document the current one. */
    const commit = (doc: JobDoc, path: string): void => {
      const s = get();
      const at = now();
      const same = path !== '' && path === lastEdit.path && at - lastEdit.at < ONE_EDIT_MS;
      lastEdit = { path, at };
      set({
        doc,
        save: s.save === 'conflict' ? 'conflict' : 'unsaved',
        refusal: null,
        past: same ? s.past : [...s.past.slice(-UNDO_DEPTH), s.doc],
        future: [],
      });
    };
    const step = (from: 'past' | 'future', to: 'past' | 'future'): void => {
      const s = get();
      const doc = s[from].at(-1);
      if (!doc) return;
      lastEdit = { path: '', at: 0 };
      set({
        doc,
        [from]: s[from].slice(0, -1),
        [to]: [...s[to], s.doc],
        save: s.save === 'conflict' ? 'conflict' : 'unsaved',
        pending: {},
      });
    };
    return {
      id: job.id,
      number: job.number,
      doc: job.doc,
      version: job.version,
      savedAt: job.savedAt,
      findings,
      save: 'saved',
      refusal: null,
      theirs: null,
      joined: null,
      pending: {},
      past: [],
      future: [],
      set: (path, value, mark) => {
        const s = get();
        const others = Object.entries(s.pending).filter(([p]) => p !== path);
        // What could not stand alone before may stand now that this has changed: all of it together first.
        const together = others.reduce((doc, [p, { value: v }]) => applied(doc, p, v, undefined), applied(s.doc, path, value, mark));
        if (firstIssue(together) === null) {
          set({ pending: {} });
          return commit(together, path);
        }
        const alone = applied(s.doc, path, value, mark);
        const issue = firstIssue(alone);
        if (issue === null) {
          set({ pending: Object.fromEntries(others) });
          return commit(alone, path);
        }
        set({ pending: { ...s.pending, [path]: { ...issue, value } } });
      },
      change: (edit) => {
        const next = edit(get().doc);
        const issue = firstIssue(next);
        if (issue === null) commit(next, '');
        return issue;
      },
      undo: () => step('past', 'future'),
      redo: () => step('future', 'past'),
      takeTheirs: () => {
        const { theirs, doc, past } = get();
        if (theirs)
          set({
            doc: theirs.doc,
            version: theirs.version,
            savedAt: theirs.savedAt,
            theirs: null,
            // Beside theirs it may hold changes of one's own that touch nothing.
            save: 'unsaved',
            past: [...past, doc],
            pending: {},
          });
      },
      keepMine: () => {
        const { theirs } = get();
        if (theirs) set({ version: theirs.version, theirs: null, save: 'unsaved' });
      },
    };
  });
}
