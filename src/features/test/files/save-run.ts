import type { RunDoc, StoredRun } from '@/core/documents/run';
import type { JobFindings } from '@/core/verdict/findings';

export interface SavedRun {
  readonly run: StoredRun;
  /** Other runs of the job that asked the same and took the answer too. */
  readonly alike: readonly StoredRun[];
  readonly findings: JobFindings;
}

/** Saves a run's record; throws the sentence to show when it cannot. */
export async function saveRun(run: StoredRun, doc: RunDoc): Promise<SavedRun> {
  const response = await fetch(`/api/runs/${run.id}`, {
    method: 'PUT',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ version: run.version, doc }),
  }).catch(() => null);
  if (!response) throw new Error('The server is away; the record was not saved. Try again when it is back.');
  const answer = (await response.json()) as SavedRun & { message: string };
  if (response.status === 409) throw new Error('Somebody else changed this run in the meantime. Reload the page to see theirs.');
  if (!response.ok) throw new Error(answer.message);
  return answer;
}

/** Takes a run out of the job; the original file stays in the store. */
export async function removeRun(id: string): Promise<JobFindings> {
  const response = await fetch(`/api/runs/${id}`, { method: 'DELETE' }).catch(() => null);
  if (!response?.ok) throw new Error('The server is away; the run is still there.');
  return ((await response.json()) as { findings: JobFindings }).findings;
}
