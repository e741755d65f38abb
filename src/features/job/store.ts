import { createStore, type StoreApi } from 'zustand/vanilla';
import type { JobPlace } from '@/core/documents/place';
import { issuesOf, type Issue } from '@/core/documents/issue';
import type { JobDoc, Provenance, StoredJob } from '@/core/documents/job';
import type { JobFindings } from '@/core/verdict/findings';
import { followed, partMark } from '@/core/job/follow';
import { checksHere, checksSoon } from '@/ui/checks';
import { valueAt, withValue } from './paths';

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
  /** Edits that wait for the checks to arrive. */
  readonly waiting: number;
  /** What was wrong with the last change that was not taken; the document is as it was. */
  readonly late: Issue | null;
  /** What stood in the job as it was opened and would not be taken in today, with the value there. */
  readonly amiss: readonly (Issue & { readonly value: unknown })[];
}

export interface JobActions {
  /** Sets one value; what does not go with the rest stays pending with its reason, and the document as it was. */
  readonly set: (path: JobPlace, value: unknown, mark?: Provenance) => void;
  /**
   * Replaces the document by a change of it; returns what is wrong when it is not a valid one. Where the checks are still on
   * their way it returns null. Either way it stands as `late` until something is taken.
   */
  readonly change: (edit: (doc: JobDoc) => JobDoc) => Issue | null;
  /** Runs this once the checks are here, in its order among the edits: at once as a rule. */
  readonly whenChecked: (run: () => void) => void;
  /** Resolves once no edit waits for the checks. */
  readonly settled: () => Promise<void>;
  /** A field begins to be edited: what is refused in the end leaves everything as it was then. */
  readonly begin: () => void;
  /** What was typed since then does not stand: everything as it was. */
  readonly back: () => void;
  readonly undo: () => void;
  readonly redo: () => void;
  readonly takeTheirs: () => void;
  readonly keepMine: () => void;
}

export type JobStore = StoreApi<JobState & JobActions>;

/** Undo remembers this many edits; edits of one field within a moment are one. */
const UNDO_DEPTH = 200;
const ONE_EDIT_MS = 700;

/**
 * First thing that is wrong with a document that is to take the place of `before` and was not so there already, or null; null too
 * where the checks could not be had: the server checks then.
 */
export function firstIssue(doc: JobDoc, before: JobDoc | null): Issue | null {
  const checks = checksHere();
  const checked = checks?.checkedChange(checks.jobDoc, before, doc);
  return checked === undefined || checked.success ? null : issuesOf(checked.error)[0]!;
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

/**
 * Edits run in the order they were made: at once where the checks are here, after them where they are still on their way. `tell` hears
 * how many wait.
 */
function onceChecked(tell: (waiting: number) => void): Pick<JobActions, 'whenChecked' | 'settled'> {
  let waiting: (() => void)[] = [];
  let coming: Promise<void> = Promise.resolve();
  return {
    whenChecked: (edit) => {
      if (waiting.length === 0 && checksHere()) return edit();
      waiting.push(edit);
      tell(waiting.length);
      if (waiting.length > 1) return;
      coming = checksSoon().then(() => {
        const list = waiting;
        waiting = [];
        for (const run of list) run();
        tell(0);
      });
    },
    settled: () => coming,
  };
}

/** What is done about a document that another saved meanwhile: theirs is taken, or one's own kept over it. */
function besideTheirs(
  set: (some: Partial<JobState>) => void,
  get: () => JobState & JobActions,
): Pick<JobActions, 'takeTheirs' | 'keepMine'> {
  return {
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
}

export function createJobStore(job: StoredJob, findings: JobFindings, now: () => number): JobStore {
  let lastEdit = { path: '', at: 0 };
  /** Since a field began to be edited: the document then, and as it last stood by that field alone. */
  let typing: { readonly from: JobDoc; readonly past: readonly JobDoc[]; readonly path: string; readonly to: JobDoc } | null = null;
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
        late: null,
        past: same ? s.past : [...s.past.slice(-UNDO_DEPTH), s.doc],
        future: [],
      });
    };
    /** On the way to a figure that is refused its first digits were taken: 2,500 of 25,000. They were never meant. */
    const back = (path: string | null): void => {
      const was = typing;
      if (!was || was.to !== get().doc || (path !== null && was.path !== path)) return;
      typing = { ...was, to: was.from };
      if (was.from === was.to) return;
      // Nor does an undo bring them back.
      lastEdit = { path: '', at: 0 };
      set((s) => ({ doc: was.from, past: was.past, save: s.save === 'conflict' ? 'conflict' : 'unsaved', refusal: null, late: null }));
    };
    const step = (from: 'past' | 'future', to: 'past' | 'future'): void => {
      const s = get();
      const doc = s[from].at(-1);
      if (!doc) return;
      // A figure of an older day that was mended is not gone back to: it would not be taken any more.
      const issue = firstIssue(doc, s.doc);
      if (issue) return set({ late: issue });
      lastEdit = { path: '', at: 0 };
      set({
        doc,
        [from]: s[from].slice(0, -1),
        [to]: [...s[to], s.doc],
        save: s.save === 'conflict' ? 'conflict' : 'unsaved',
        pending: {},
        late: null,
      });
    };
    const { whenChecked, settled } = onceChecked((waiting) => set({ waiting }));
    const setValue = (path: string, value: unknown, mark: Provenance | undefined): void => {
      const s = get();
      const others = Object.entries(s.pending).filter(([p]) => p !== path);
      // What could not stand alone before may stand now that this has changed: all of it together first.
      const together = others.reduce((doc, [p, { value: v }]) => applied(doc, p, v, undefined), applied(s.doc, path, value, mark));
      const take = (next: JobDoc, pending: JobState['pending']): void => {
        set({ pending });
        commit(next, path);
        if (typing && typing.to === s.doc && (typing.path === '' || typing.path === path)) typing = { ...typing, path, to: next };
      };
      if (firstIssue(together, s.doc) === null) {
        take(together, {});
        // What another field held back came with it, and stays.
        if (others.length > 0) typing = null;
        return;
      }
      const alone = applied(s.doc, path, value, mark);
      const issue = firstIssue(alone, s.doc);
      if (issue === null) return take(alone, Object.fromEntries(others));
      back(path);
      set({ pending: { ...s.pending, [path]: { ...issue, value } } });
    };
    const changeAll = (edit: (doc: JobDoc) => JobDoc): Issue | null => {
      const { doc } = get();
      const next = edit(doc);
      const issue = firstIssue(next, doc);
      if (issue === null) commit(next, '');
      else set({ late: issue });
      return issue;
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
      waiting: 0,
      late: null,
      amiss: (job.amiss ?? []).map((issue) => ({ ...issue, value: valueAt(job.doc, issue.path) })),
      whenChecked,
      settled,
      set: (path, value, mark) => whenChecked(() => setValue(path, value, mark)),
      change: (edit) => {
        let issue: Issue | null = null;
        whenChecked(() => {
          issue = changeAll(edit);
        });
        return issue;
      },
      begin: () => {
        const { doc, past } = get();
        typing = { from: doc, past, path: '', to: doc };
      },
      back: () => whenChecked(() => back(null)),
      undo: () => whenChecked(() => step('past', 'future')),
      redo: () => whenChecked(() => step('future', 'past')),
      ...besideTheirs(set, get),
    };
  });
}
