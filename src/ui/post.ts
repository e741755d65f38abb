/** A refusal from the server, with whatever data came with it. */
export class Refused extends Error {
  constructor(
    message: string,
    readonly status: number,
    readonly data: Readonly<Record<string, unknown>>,
  ) {
    super(message);
  }
}

/** Sends JSON and reads JSON; a refusal or a server that is away becomes an error with a sentence. */
export async function send<T>(method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE', url: string, body?: unknown): Promise<T> {
  let response: Response;
  try {
    response = await fetch(url, {
      method,
      headers: { 'content-type': 'application/json' },
      ...(body !== undefined && { body: JSON.stringify(body) }),
    });
  } catch {
    throw new Refused('The server is away. What you typed is kept here; try again.', 0, {});
  }
  const answer = (await response.json().catch(() => ({}))) as Record<string, unknown> & { message?: string };
  if (!response.ok) throw new Refused(answer.message ?? 'The server could not do this.', response.status, answer);
  return answer as T;
}
