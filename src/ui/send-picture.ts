/** Largest picture taken, as the server has it. */
const REFUSED = 'That is no PNG, JPEG or WebP picture of up to 12 MB.';

/** Keeps a picture on the server; resolves with the hash it is known by, or throws the sentence to show. */
export async function sendPicture(file: Blob): Promise<string> {
  const response = await fetch('/api/files', { method: 'POST', body: file }).catch(() => null);
  if (!response) throw new Error('The server is away. The picture was not kept; try again.');
  const answer = response.ok ? ((await response.json()) as { hash: string }) : null;
  const check = answer ? await fetch(`/api/files/${answer.hash}`).catch(() => null) : null;
  if (!answer || !check?.ok) throw new Error(REFUSED);
  return answer.hash;
}
