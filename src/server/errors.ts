import type { Issue } from '@/core/documents/issue';
import { log } from './watch';

/** What went wrong for the person who asked, with the HTTP status it has and the data the interface needs. */
export class ServerProblem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly data: Readonly<Record<string, unknown>> = {},
  ) {
    super(message);
  }
}

/** A refusal that says where and what is wrong first, with everything else that is. `whole`: what it is called where it is wrong as a whole. */
export const invalid = (issues: readonly Issue[], whole: string): ServerProblem =>
  new ServerProblem(422, 'invalid', `${issues[0]?.path || whole}: ${issues[0]?.message ?? 'It is not possible.'}`, {
    issues: issues.map(({ path, message }) => ({ path, message })),
  });

export const notFound = (what: string): ServerProblem => new ServerProblem(404, 'not_found', `This ${what} does not exist (any more).`);

/** Pieces that were taken in are gone: the database was ended in between, and what it had not written yet went with it. */
export const piecesLost = (): ServerProblem =>
  new ServerProblem(503, 'pieces_lost', 'The database stopped while the file came in, and a part of it is lost. Send it again.');

/** A save against an older version than the one stored: it carries the newer document, so that the two can be compared. */
export const stale = (current: unknown, more: Readonly<Record<string, unknown>> = {}): ServerProblem =>
  new ServerProblem(409, 'stale', 'Somebody else saved this in the meantime.', { current, ...more });

const AWAY = new Set(['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT', '57P01', '57P02', '57P03', '08006', '08001', '08003']);

/** Whether an error means that the database cannot be reached just now. */
export function isDatabaseAway(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  const { code } = error as { code?: string };
  return (code !== undefined && AWAY.has(code)) || /connection terminated|not queryable|connection timeout/i.test(error.message);
}

/** Whether every connection was in use for as long as is waited: much to do, and nothing is away. */
const isCrowded = (error: unknown): boolean => error instanceof Error && /timeout exceeded when trying to connect/i.test(error.message);

/** No room: the disk, or what the database may use of it or of its memory. */
const FULL = new Set(['53100', '53200', 'ENOSPC']);

/** What the database says of a text that is no text, and of an id that is none. */
const NO_TEXT = new Set(['22021', '22P05']);
const NO_ID = '22P02';

/** The one mapping from errors to HTTP. */
export function problemOf(error: unknown): ServerProblem {
  if (error instanceof ServerProblem) return error;
  if (isCrowded(error))
    return new ServerProblem(503, 'busy', 'The server has more to do than it can just now. Try again in a few seconds.', {
      retryAfter_s: 5,
    });
  if (isDatabaseAway(error)) return new ServerProblem(503, 'database_away', 'The database cannot be reached just now.');
  const code = (error as { code?: string } | null)?.code ?? '';
  if (NO_TEXT.has(code))
    return new ServerProblem(
      422,
      'unstorable_text',
      'A text holds a NUL or half a letter, which cannot be kept. Type it again without it.',
    );
  if (code === NO_ID) return new ServerProblem(404, 'not_found', 'This does not exist (any more).');
  if (FULL.has((error as { code?: string } | null)?.code ?? ''))
    return new ServerProblem(
      507,
      'disk_full',
      'The disk of the database is full: nothing was saved. Make room there; what you typed is kept here.',
    );
  log().error({ err: error }, 'a request failed');
  return new ServerProblem(500, 'failed', 'Something went wrong on the server. What you typed is kept here; try again.');
}
