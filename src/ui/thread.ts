import { wrap, type Remote } from 'comlink';

/** What a call to a thread fails with whose script could not be fetched, or that broke down. */
export class ThreadGone extends Error {
  constructor() {
    super('The thread could not be begun, or broke down.');
    this.name = 'ThreadGone';
  }
}

export interface Thread<T> {
  readonly api: Remote<T>;
  readonly end: () => void;
}

/**
 * The functions of a worker. A call fails with ThreadGone where the worker's script could not be fetched or it broke down, which a
 * bare remote would wait for without end; the next call begins another worker. After `end` no call is answered.
 */
export function openThread<T extends object>(begin: () => Worker): Thread<T> {
  interface Open {
    readonly worker: Worker;
    readonly remote: Remote<T>;
    readonly gone: Promise<never>;
  }
  let ended = false;
  let open: Open | null = null;
  const opened = (): Open => {
    const worker = begin();
    const gone = new Promise<never>((_, refuse) => {
      worker.addEventListener('error', () => {
        worker.terminate();
        if (open?.worker === worker) open = null;
        refuse(new ThreadGone());
      });
    });
    gone.catch(() => {});
    return { worker, remote: wrap<T>(worker), gone };
  };
  open = opened();
  const call = (name: string | symbol, args: unknown[]): Promise<unknown> => {
    if (ended) return new Promise(() => {});
    open ??= opened();
    const functions = open.remote as Record<string | symbol, (...of: unknown[]) => Promise<unknown>>;
    return Promise.race([functions[name]!(...args), open.gone]);
  };
  const api = new Proxy({} as Remote<T>, {
    // A thing with a `then` would be taken for a promise.
    get: (_, name) => (name === 'then' ? undefined : (...args: unknown[]) => call(name, args)),
  });
  return {
    api,
    end: () => {
      ended = true;
      open?.worker.terminate();
    },
  };
}
