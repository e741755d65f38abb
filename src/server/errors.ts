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

export const notFound = (what: string): ServerProblem => new ServerProblem(404, 'not_found', `This ${what} does not exist (any more).`);

/** A save against an older version than the one stored: both are in hand. */
export const stale = (current: unknown, more: Readonly<Record<string, unknown>> = {}): ServerProblem =>
  new ServerProblem(409, 'stale', 'Somebody else saved this in the meantime.', { current, ...more });

const AWAY = new Set(['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT', '57P01', '57P02', '57P03', '08006', '08001', '08003']);

/** Whether an error means that the database cannot be reached just now. */
export function isDatabaseAway(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  const { code } = error as { code?: string };
  return (
    (code !== undefined && AWAY.has(code)) ||
    /connection terminated|timeout exceeded when trying to connect|connection timeout/i.test(error.message)
  );
}

/** The one mapping from errors to HTTP. */
export function problemOf(error: unknown): ServerProblem {
  if (error instanceof ServerProblem) return error;
  if (isDatabaseAway(error)) return new ServerProblem(503, 'database_away', 'The database cannot be reached just now.');
  console.error(error);
  return new ServerProblem(500, 'failed', 'Something went wrong on the server. What you typed is kept here; try again.');
}
