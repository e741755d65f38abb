import { db } from '@/server/db/client';
import { freshDatabase } from './database';

/** Gives the file's routes a database of their own for as long as its tests run. */
export function onFreshDatabase(): void {
  let drop: () => Promise<void>;
  beforeAll(async () => {
    const fresh = await freshDatabase();
    process.env['DATABASE_URL'] = fresh.url;
    drop = async () => {
      await db().destroy();
      await fresh.drop();
    };
  });
  afterAll(() => drop());
}

export const NOBODY = '00000000-0000-4000-8000-000000000000';
const URL_OF_ALL = 'http://127.0.0.1/';
const headers = { host: '127.0.0.1' };

/** A request with a JSON body, and one without any. */
export const ask = (body: unknown, method = 'POST', signal?: AbortSignal): Request =>
  new Request(URL_OF_ALL, { method, headers, body: JSON.stringify(body), ...(signal && { signal }) });
/** A request with a JSON body and headers of its own. */
export const askAs = (body: unknown, more: Record<string, string>): Request =>
  new Request(URL_OF_ALL, { method: 'POST', headers: { ...headers, ...more }, body: JSON.stringify(body) });
export const bare = (method = 'GET'): Request => new Request(URL_OF_ALL, { method, headers });
export const sendBytes = (body: BodyInit | null, more: Record<string, string> = {}): Request =>
  new Request(URL_OF_ALL, { method: 'POST', headers: { ...headers, ...more }, body });

/** What a route is given of its address. */
export const at = <P>(params: P): { params: Promise<P> } => ({ params: Promise.resolve(params) });
export const none = at({});
export const json = async <T>(response: Response): Promise<T> => (await response.json()) as T;
