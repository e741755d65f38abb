import { openDB, type DBSchema, type IDBPDatabase } from 'idb';

/** Something a person wrote that is on its way to the server. */
export interface Waiting {
  /** Place in the order of writing, over all jobs. */
  readonly seq: number;
  /** The same however often it is sent: the server takes it once. */
  readonly id: string;
  readonly jobId: string;
  readonly kind: 'sheet' | 'photo' | 'pass' | 'weather' | 'visit';
  readonly url: string;
  readonly body: unknown;
  /** A photo goes ahead of the event that names it. */
  readonly photo?: Blob | undefined;
  readonly written_ms: number;
  /** Why the server will not take it; null: it is to be sent yet. It stays here until a person has seen it. */
  readonly refused: string | null;
}
export type ToSend = Omit<Waiting, 'seq' | 'refused' | 'written_ms'>;

export type Fate = { readonly kind: 'sent'; readonly answer: unknown } | { readonly kind: 'waiting' };

interface Schema extends DBSchema {
  items: { key: number; value: Waiting };
  pages: { key: string; value: { url: string; at_ms: number } };
}

/** A connection that was lost is tried again after this, ms. */
const AGAIN_ms = 3000;
/** What is known to pass: no connection, a server that is busy, and one that wants to be signed in to first. */
const LATER = new Set([0, 401, 408, 425, 429]);
const NAME = 'vanner-outbox';

type Answer = { readonly ok: boolean; readonly status: number; readonly answer: unknown };

async function post(url: string, body: BodyInit, type: string | null): Promise<Answer> {
  try {
    const response = await fetch(url, {
      method: 'POST',
      // The server sets its own clock against this device's: a phone's may be wrong.
      headers: { ...(type !== null && { 'content-type': type }), 'x-vanner-sent': String(Date.now()) },
      body,
    });
    return { ok: response.ok, status: response.status, answer: await response.json().catch(() => ({})) };
  } catch {
    return { ok: false, status: 0, answer: {} };
  }
}

/**
 * What was written and is not yet on the server: kept in this browser's database, sent in the order it was written, once each,
 * and taken up again after a reload, a restart or a lost connection. What the server refuses for good stays, with the reason.
 */
export class Outbox {
  private items: readonly Waiting[] = [];
  private readonly listeners = new Set<() => void>();
  private readonly sentListeners = new Set<(item: Waiting, answer: unknown) => void>();
  private readonly fates = new Map<string, (fate: Fate | Error) => void>();
  private db: IDBPDatabase<Schema> | null = null;
  private opened: Promise<void> | null = null;
  private busy = false;
  private closed = false;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private readonly channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel(NAME);
  private connected = true;
  private signedOut = false;
  private nextSeq = Date.now();

  constructor() {
    this.channel?.addEventListener('message', () => void this.reload());
  }

  /** Ends the listening: for tests, where each has a browser of its own. */
  close(): void {
    this.closed = true;
    clearTimeout(this.timer);
    this.channel?.close();
    this.db?.close();
  }

  /** All that waits, the oldest first. The list is another one whenever it has changed. */
  readonly list = (): readonly Waiting[] => this.items;
  /** Whether the last thing sent reached the server. */
  readonly isConnected = (): boolean => this.connected;
  readonly isSignedOut = (): boolean => this.signedOut;
  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    void this.open();
    return () => this.listeners.delete(listener);
  };
  /** Told of each item that the server took, with its answer. */
  readonly onSent = (listener: (item: Waiting, answer: unknown) => void): (() => void) => {
    this.sentListeners.add(listener);
    return () => this.sentListeners.delete(listener);
  };

  private set(items: readonly Waiting[]): void {
    this.items = items;
    this.listeners.forEach((l) => l());
  }

  private open(): Promise<void> {
    this.opened ??= (async () => {
      try {
        this.db = await openDB<Schema>(NAME, 1, {
          upgrade(db) {
            db.createObjectStore('items', { keyPath: 'seq' });
            db.createObjectStore('pages', { keyPath: 'url' });
          },
        });
      } catch {
        // A browser that keeps nothing (some private windows): what is written waits in the page alone.
        this.db = null;
      }
      await this.reload();
      window.addEventListener('online', () => void this.flush());
      void this.flush();
    })();
    return this.opened;
  }

  /** One change of what is kept after the other: a list read before a change must not be shown after it. */
  private inTurn<T>(work: () => Promise<T>): Promise<T> {
    const run = this.turn.then(work);
    this.turn = run.catch(() => undefined);
    return run;
  }

  private reload(): Promise<void> {
    return this.inTurn(async () => {
      if (!this.db || this.closed) return;
      const kept = await this.db.getAll('items');
      // What is being written into the database at this moment is in the list alone.
      const known = new Set(kept.map((i) => i.id));
      const fresh = this.items.filter((i) => this.unkept.has(i.id) && !known.has(i.id));
      this.nextSeq = Math.max(this.nextSeq, ...kept.map((i) => i.seq + 1));
      this.set([...kept, ...fresh].sort((a, b) => a.seq - b.seq));
    });
  }

  private remove(seq: number): Promise<void> {
    return this.inTurn(async () => {
      await this.db?.delete('items', seq);
      this.set(this.items.filter((i) => i.seq !== seq));
    });
  }

  /** Ids of what is on its way into the database. */
  private readonly unkept = new Set<string>();
  private turn: Promise<unknown> = Promise.resolve();

  /**
   * Writes something down, first here and then to the server. Resolves when it is sent, or when it has to wait; rejects with the
   * server's sentence when it is refused at once, and then it is not kept: whoever wrote it still has it before them.
   */
  async add(item: ToSend): Promise<Fate> {
    const waiting: Waiting = { ...item, seq: this.nextSeq, refused: null, written_ms: Date.now() };
    this.nextSeq += 1;
    this.unkept.add(waiting.id);
    this.set([...this.items, waiting]);
    await this.open();
    await this.inTurn(async () => {
      let kept = waiting;
      while (this.db) {
        const last = (await this.db.getAllKeys('items')).at(-1) ?? 0;
        // Behind everything that is there: a place taken before this browser's own list was read may be too early.
        if (kept.seq <= last) {
          const moved = { ...kept, seq: Math.max(last + 1, this.nextSeq) };
          this.nextSeq = moved.seq + 1;
          this.set(this.items.map((i) => (i.id === kept.id ? moved : i)));
          kept = moved;
        }
        try {
          await this.db.add('items', kept);
          break;
        } catch (error) {
          if ((error as DOMException).name !== 'ConstraintError') throw error;
          // Another window took this place in between: the next one.
        }
      }
      this.unkept.delete(waiting.id);
    });
    void (navigator.storage as StorageManager | undefined)?.persist?.().catch(() => false);
    this.channel?.postMessage('changed');
    return new Promise((resolve, reject) => {
      this.fates.set(item.id, (fate) => (fate instanceof Error ? reject(fate) : resolve(fate)));
      void this.flush();
    });
  }

  /** Takes something that was refused off the list: a person has read why. */
  async dismiss(seq: number): Promise<void> {
    await this.remove(seq);
    this.channel?.postMessage('changed');
  }

  private async send(item: Waiting): Promise<Answer> {
    if (!item.photo) return post(item.url, JSON.stringify(item.body), 'application/json');
    const stored = await post('/api/files', item.photo, null);
    if (!stored.ok) return stored;
    return post(item.url, JSON.stringify({ ...(item.body as object), hash: (stored.answer as { hash: string }).hash }), 'application/json');
  }

  private tell(id: string, fate: Fate | Error): void {
    this.fates.get(id)?.(fate);
    this.fates.delete(id);
  }

  private async sendAll(): Promise<void> {
    for (;;) {
      await this.reload();
      const item = this.items.find((i) => i.refused === null && !this.unkept.has(i.id));
      if (!item || this.closed) return;
      const { ok, status, answer } = await this.send(item);
      if (this.closed) return;
      const message = (answer as { message?: string }).message ?? 'The server could not do this.';
      this.connected = status !== 0;
      this.signedOut = status === 401;
      if (ok) {
        // Who shows what is kept has it before it leaves the list: it must not be nowhere for a moment.
        this.sentListeners.forEach((l) => l(item, answer));
        await this.remove(item.seq);
        this.tell(item.id, { kind: 'sent', answer });
      } else if (LATER.has(status) || status >= 500) {
        for (const i of this.items) this.tell(i.id, { kind: 'waiting' });
        this.set([...this.items]);
        this.timer = setTimeout(() => void this.flush(), AGAIN_ms);
        return;
      } else if (this.fates.has(item.id)) {
        await this.remove(item.seq);
        this.tell(item.id, Object.assign(new Error(message), { status, data: answer }));
      } else {
        const refused = { ...item, refused: message };
        await this.inTurn(async () => {
          await this.db?.put('items', refused);
          this.set(this.items.map((i) => (i.id === item.id ? refused : i)));
        });
      }
      this.channel?.postMessage('changed');
    }
  }

  /** Sends what waits, one after the other. Of several windows one does it. */
  async flush(): Promise<void> {
    if (this.busy || this.closed) return;
    this.busy = true;
    clearTimeout(this.timer);
    try {
      await this.open();
      const locks = (navigator as { locks?: LockManager }).locks;
      if (locks && this.db) await locks.request(NAME, () => this.sendAll());
      else await this.sendAll();
    } catch (error) {
      // A page that is left takes its database with it, in the middle of whatever it did.
      if (!this.closed) throw error;
    } finally {
      this.busy = false;
    }
    // Written while the last answer was on its way.
    if (this.items.some((i) => i.refused === null && this.fates.has(i.id) && !this.unkept.has(i.id))) void this.flush();
  }
}

let shared: Outbox | null = null;
/** This browser's one outbox. */
export const outbox = (): Outbox => (shared ??= new Outbox());
/** For tests, where each has a browser of its own. */
export function freshOutbox(): Outbox {
  shared?.close();
  shared = new Outbox();
  return shared;
}
