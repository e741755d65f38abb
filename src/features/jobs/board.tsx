'use client';

import { App, Button } from 'antd';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import type { BoardJob } from '@/server/jobs';
import { boardLine, stopLine } from '@/features/job/finding-text';
import { STOPS } from '@/features/job/stops';
import { useCommands } from '@/ui/shell/commands';
import { usePrefs } from '@/ui/theme/prefs';
import { NewJob } from './new-job';
import { TakeIn } from './take-in';
import { Ready } from '@/ui/answer/ready';
import styles from './jobs.module.css';

interface Answer {
  readonly id: string;
  readonly message: string;
}

async function post(url: string, body: unknown): Promise<Answer> {
  const response = await fetch(url, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
  const answer = (await response.json()) as Answer;
  if (!response.ok) throw new Error(answer.message);
  return answer;
}

/** Made once: it is asked for on every row. */
const DAY = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });

function Row({ job, onAction }: { job: BoardJob; onAction: (url: string, body: unknown, then: string) => void }) {
  const { pack } = usePrefs();
  const date = DAY.format(new Date(job.savedAt));
  return (
    <li className={styles['row']}>
      <Link href={`/jobs/${job.id}/air`} className={styles['link']}>
        <span className={styles['number']}>{job.number}</span>
        <span>
          <span className={styles['name']}>{job.name}</span>
          <span className={styles['car']}>{stopLine(job.findings, 'car', pack)?.line}</span>
          {job.tags.length > 0 && (
            <span className={styles['tags']}>
              {job.tags.map((t) => (
                <span key={t} className={styles['tag']}>
                  {t}
                </span>
              ))}
            </span>
          )}
        </span>
        <span className={styles['finding']}>{boardLine(job.findings, pack)}</span>
        <span className={styles['dots']} aria-hidden="true">
          {STOPS.map(({ key, title }) => (
            <i key={key} data-state={stopLine(job.findings, key, pack)?.state ?? 'empty'} title={title} />
          ))}
        </span>
        <time className={styles['date']} dateTime={job.savedAt} suppressHydrationWarning>
          {date}
        </time>
      </Link>
      <span className={styles['actions']}>
        <button
          type="button"
          aria-label={`Duplicate ${job.name}`}
          onClick={() => onAction('/api/jobs', { duplicateOf: job.id }, 'Duplicated.')}
        >
          Duplicate
        </button>
        <button
          type="button"
          aria-label={`${job.archived ? 'Bring back' : 'Archive'} ${job.name}`}
          onClick={() =>
            onAction(`/api/jobs/${job.id}/archive`, { archived: !job.archived }, job.archived ? 'Back on the board.' : 'Archived.')
          }
        >
          {job.archived ? 'Bring back' : 'Archive'}
        </button>
        <button
          type="button"
          aria-label={`Put ${job.name} into the trash`}
          onClick={() =>
            onAction('/api/trash', { kind: 'job', id: job.id, trashed: true }, 'In the trash; it can be brought back from there.')
          }
        >
          Trash
        </button>
      </span>
    </li>
  );
}

/** The board: every car in the shop with the one thing found out about it. */
export function JobBoard({
  jobs,
  counts = { active: jobs.filter((j) => !j.archived).length, archived: jobs.filter((j) => j.archived).length },
}: {
  jobs: readonly BoardJob[];
  /** All there are, where only the first are given. */
  counts?: { readonly active: number; readonly archived: number };
}) {
  const router = useRouter();
  const { message } = App.useApp();
  const [creating, setCreating] = useState(false);
  const [archive, setArchive] = useState(false);
  const offer = useCommands((s) => s.offer);
  useEffect(() => {
    offer('board', [
      { id: 'new-job', title: 'New job', hint: 'do', run: () => setCreating(true) },
      ...jobs.map((j) => ({ id: j.id, title: j.name, hint: `job ${j.number}`, run: () => router.push(`/jobs/${j.id}/air`) })),
    ]);
    return () => offer('board', []);
  }, [jobs, offer, router]);
  const act = (url: string, body: unknown, then: string): void => {
    post(url, body)
      .then(() => {
        void message.success(then);
        router.refresh();
      })
      .catch((error: Error) => void message.error(error.message || 'The server is away. Try again.'));
  };
  const shown = jobs.filter((j) => j.archived === archive);
  const archived = counts.archived;
  const all = archive ? counts.archived : counts.active;
  return (
    <div className={styles['board']}>
      <Ready />
      <div className={styles['head']}>
        <h1>
          {archive ? 'Archived jobs' : shown.length === 0 ? 'No car in the shop yet' : `${all} ${all === 1 ? 'car' : 'cars'} in the shop`}
        </h1>
        <span className={styles['tools']}>
          <TakeIn />
          <Button type="primary" onClick={() => setCreating(true)}>
            New job
          </Button>
        </span>
      </div>
      {shown.length === 0 ? (
        <p className={styles['empty']}>
          {archive
            ? 'Nothing has been archived.'
            : 'Begin with New job: a name and the engine nearest to yours are enough; every figure can be put right afterwards.'}
        </p>
      ) : (
        <ul className={styles['list']}>
          {shown.map((job) => (
            <Row key={job.id} job={job} onAction={act} />
          ))}
        </ul>
      )}
      {shown.length < all && (
        <p className={styles['empty']}>
          The {shown.length} last touched. Press / and type to find any other, or <Link href="/?show=all">show all {all}</Link>.
        </p>
      )}
      {(archived > 0 || archive) && (
        <Button type="link" className={styles['more']!} onClick={() => setArchive(!archive)}>
          {archive ? 'Back to the board' : `Archived (${archived})`}
        </Button>
      )}
      {creating && (
        <NewJob
          onClose={() => setCreating(false)}
          onCreate={async (name, preset) => {
            const job = await post('/api/jobs', { name, preset });
            router.push(`/jobs/${job.id}/car`);
          }}
        />
      )}
    </div>
  );
}
