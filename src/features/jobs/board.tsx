'use client';

import { DownloadOutlined, EllipsisOutlined, PlusOutlined } from '@ant-design/icons';
import { Button, Dropdown, Input, Select } from 'antd';
import { Link } from '@/ui/link';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useRef, useState, useTransition } from 'react';
import type { AdviceWord } from '@/core/documents/verdict';
import { ADVICE } from '@/core/documents/kinds';
import type { BoardPage, BoardQuery, BoardState } from '@/server/board';
import type { BoardJob } from '@/server/jobs';
import { boardLine, stopLine } from '@/features/job/finding-text';
import { STOPS } from '@/features/job/stops';
import { ADVICE_TITLES } from '@/features/verdict/words';
import { WhenListening } from '@/ui/when-listening';
import { Ready } from '@/ui/answer/ready';
import { send } from '@/ui/post';
import { useCommands } from '@/ui/shell/commands';
import { DataTable, type DataColumn } from '@/ui/table/data-table';
import { stampNow } from '@/ui/clock';
import { usePrefs } from '@/ui/theme/prefs';
import { MoreWays, useBoardActs } from './board-acts';
import { boardAddress, EXAMPLE_TAG, isFiltered, rememberBoard } from './board-address';
import { Doors } from './doors';
import { TakeIn } from './take-in';
import styles from './jobs.module.css';
import { msg } from './messages';
import { later } from '@/ui/later';

/** Comes when it is asked for. */
const NewJob = later(() => import('./new-job').then((m) => m.NewJob));

const SINCE = [
  { days: 0, label: 'touched today' },
  { days: 7, label: 'touched within a week' },
  { days: 30, label: 'touched within a month' },
  { days: 365, label: 'touched within a year' },
] as const;
/** The day so many days ago, as the address holds it. */
const dayBefore = (days: number): string => stampNow(new Date(Date.now() - 86_400_000 * days)).date;

const STATES: Readonly<Record<BoardState, string>> = {
  'needs a look': 'needs a look',
  'not tested': 'not tested yet',
  tested: 'tested',
  decided: 'decided',
  archived: 'archived',
};

/** How far a job is, stop by stop: the dots mean nothing to those who do not see them, so the words stand beside. */
function Progress({ job }: { job: BoardJob }) {
  const { pack } = usePrefs();
  const states = STOPS.map(({ key, title }) => ({ key, title, state: stopLine(job.findings, key, pack)?.state ?? 'empty' }));
  return (
    <span className={styles['dots']} role="img" aria-label={states.map((s) => `${s.title}: ${s.state}`).join(', ')}>
      {states.map(({ key, state }) => (
        <i key={key} data-state={state} />
      ))}
    </span>
  );
}

function useBoardColumns(act: (job: BoardJob, what: 'duplicate' | 'archive' | 'trash') => void): readonly DataColumn<BoardJob>[] {
  const { pack, dates } = usePrefs();
  return useMemo(
    (): readonly DataColumn<BoardJob>[] => [
      { key: 'number', title: msg.no, text: (j) => String(j.number), by: (j) => j.number, width: 72, wide: true },
      {
        key: 'name',
        title: msg.car,
        text: (j) => j.name,
        by: (j) => j.name,
        render: (j) => (
          <Link href={`/jobs/${j.id}/air`} className={styles['link']}>
            <span className={styles['name']}>{j.name}</span>
            <span className={styles['car']}>{stopLine(j.findings, 'car', pack)?.line}</span>
            <span className={styles['short']}>{boardLine(j.findings, pack)}</span>
            {j.tags.length > 0 && (
              <span className={styles['tags']}>
                {j.tags.map((t) => (
                  <span key={t} className={styles['tag']}>
                    {t}
                  </span>
                ))}
              </span>
            )}
          </Link>
        ),
      },
      {
        key: 'finding',
        title: msg.foundSoFar,
        text: (j) => boardLine(j.findings, pack),
        render: (j) => <span className={styles['finding']}>{boardLine(j.findings, pack)}</span>,
        wide: true,
      },
      {
        key: 'progress',
        title: msg.steps,
        text: (j) => j.findings.stops.filter((s) => s.state === 'settled').length + ' of 7',
        render: (j) => <Progress job={j} />,
        width: 120,
        wide: true,
      },
      { key: 'owner', title: msg.owner, text: (j) => j.owner ?? '', hidden: true },
      { key: 'plate', title: msg.plateOrChassis, text: (j) => j.plate ?? '', hidden: true },
      { key: 'who', title: msg.who, text: (j) => j.savedBy ?? '', width: 90, wide: true },
      { key: 'saved', title: msg.lastTouched, text: (j) => dates.day(j.savedAt), by: (j) => j.savedAt, width: 120, wide: true },
      {
        key: 'tools',
        title: '',
        text: () => '',
        tool: true,
        width: 48,
        render: (j) => (
          <WhenListening>
            <Dropdown
              trigger={['click']}
              menu={{
                items: [
                  { key: 'duplicate', label: msg.duplicate },
                  { key: 'archive', label: j.archived ? 'Bring back to the board' : 'Archive' },
                  { key: 'export', label: <a href={`/api/jobs/${j.id}/package`}>{msg.exportJob}</a> },
                  { key: 'trash', label: msg.putIntoTheTrash },
                ],
                onClick: ({ key }) => key !== 'export' && act(j, key as 'duplicate' | 'archive' | 'trash'),
              }}
            >
              <Button type="text" icon={<EllipsisOutlined aria-hidden />} aria-label={`More for ${j.name}`} />
            </Dropdown>
          </WhenListening>
        ),
      },
    ],
    [pack, dates, act],
  );
}

/** Words, tag, state, verdict, who and since when: what the board is narrowed to. */
function Filters({ query, page, go }: { query: BoardQuery; page: BoardPage; go: (next: BoardQuery) => void }) {
  const { dates } = usePrefs();
  const [words, setWords] = useState(query.q ?? '');
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => () => clearTimeout(timer.current), []);
  const with_ = (more: Partial<BoardQuery>): void => go({ ...query, ...more, page: undefined });
  const choice = <T extends string>(label: string, key: keyof BoardQuery, options: readonly { value: T; label: string }[], width = 132) => (
    <Select
      aria-label={label}
      placeholder={label}
      allowClear
      popupMatchSelectWidth={false}
      style={{ width }}
      value={(query[key] as T | undefined) ?? null}
      options={[...options]}
      onChange={(value: T | undefined) => with_({ [key]: value })}
    />
  );
  return (
    <div className={styles['filters']} role="search" aria-label={msg.narrowTheBoard}>
      <Input
        aria-label={msg.wordsInAJob}
        placeholder={msg.carOwnerPlateWords}
        allowClear
        style={{ width: 210 }}
        value={words}
        onChange={(e) => {
          const q = e.target.value;
          setWords(q);
          clearTimeout(timer.current);
          timer.current = setTimeout(() => with_({ q: q.trim() === '' ? undefined : q }), 250);
        }}
      />
      {choice(
        'state',
        'state',
        Object.entries(STATES).map(([value, label]) => ({ value: value as BoardState, label })),
      )}
      {choice<AdviceWord>(
        'verdict',
        'verdict',
        ADVICE.map((value) => ({ value, label: ADVICE_TITLES[value] })),
        150,
      )}
      {page.tags.length > 0 &&
        choice(
          'tag',
          'tag',
          page.tags.map((value) => ({ value, label: value })),
        )}
      {page.people.length > 0 &&
        choice(
          'who',
          'who',
          page.people.map((value) => ({ value, label: value })),
          112,
        )}
      <Select
        aria-label={msg.touchedSince}
        placeholder={msg.touchedSince}
        allowClear
        popupMatchSelectWidth={false}
        style={{ width: 150 }}
        value={query.since ?? null}
        options={SINCE.map(({ days, label }) => ({ value: dayBefore(days), label }))}
        labelRender={({ value, label }) => label ?? `${msg.touchedSince} ${dates.plainDay(String(value))}`}
        onChange={(since: string | undefined) => with_({ since })}
      />
      {isFiltered(query) && (
        <Button
          type="link"
          onClick={() => {
            setWords('');
            go({});
          }}
        >
          {msg.showAll}
        </Button>
      )}
    </div>
  );
}

/** What is done with several jobs at once. */
function Bulk({
  jobs,
  onDone,
  onTrash,
  onArchive,
}: {
  jobs: readonly BoardJob[];
  onDone: () => void;
  onTrash: () => void;
  onArchive: () => void;
}) {
  if (jobs.length === 0) return null;
  const archived = jobs.every((j) => j.archived);
  return (
    <span className={styles['bulk']} role="group" aria-label={msg.withThoseChosen}>
      {jobs.length} {msg.chosen}
      <Button size="small" onClick={onArchive}>
        {archived ? 'Bring back' : 'Archive'}
      </Button>
      <Button
        size="small"
        icon={<DownloadOutlined aria-hidden />}
        onClick={() => {
          // One archive a job: each can be imported by itself.
          jobs.forEach((j, i) => setTimeout(() => downloadJob(j.id), 400 * i));
          onDone();
        }}
      >
        {msg.exportWord}
      </Button>
      <Button size="small" onClick={onTrash}>
        {msg.putIntoTheTrash}
      </Button>
    </span>
  );
}

function downloadJob(id: string): void {
  const link = document.createElement('a');
  link.href = `/api/jobs/${id}/package`;
  link.download = '';
  link.click();
}

function title({ all, archived, total }: BoardPage, query: BoardQuery): string {
  if (query.state === 'archived')
    return archived === 0 ? 'Nothing has been archived.' : `${archived} archived ${archived === 1 ? 'job' : 'jobs'}`;
  if (isFiltered(query)) return `${total} of ${all} ${all === 1 ? 'car' : 'cars'}`;
  return all === 0 ? 'No car in the shop yet' : `${all} ${all === 1 ? 'car' : 'cars'} in the shop`;
}

/** The board: every car in the shop with the one thing found out about it. */
export function JobBoard({ page, query = {} }: { page: BoardPage; query?: BoardQuery }) {
  const router = useRouter();
  const [creating, setCreating] = useState(false);
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [busy, begin] = useTransition();
  const { jobs, total, all, archived } = page;
  const offer = useCommands((s) => s.offer);
  useEffect(() => {
    offer('board', [
      { id: 'new-job', title: msg.newJob, hint: msg.doWord, run: () => setCreating(true) },
      ...jobs.map((j) => ({ id: j.id, title: j.name, hint: `job ${j.number}`, run: () => router.push(`/jobs/${j.id}/air`) })),
    ]);
    return () => offer('board', []);
  }, [jobs, offer, router]);
  const go = (next: BoardQuery): void => {
    rememberBoard(next);
    setChosen([]);
    begin(() => router.push(boardAddress(next)));
  };
  const { act, tell, trash, archive } = useBoardActs(() => setChosen([]));
  const columns = useBoardColumns(act);
  const picked = jobs.filter((j) => chosen.includes(j.id));
  const fresh = all === 0 && archived === 0;
  const open = (id: string, stop: string): void => router.push(`/jobs/${id}/${stop}`);
  const example = (): Promise<void> => send<{ id: string }>('POST', '/api/jobs', { example: true }).then(({ id }) => open(id, 'air'));
  return (
    <div className={styles['board']}>
      <Ready />
      <div className={styles['head']}>
        <h1>{title(page, query)}</h1>
        <span className={styles['tools']}>
          <TakeIn />
          {!fresh && <MoreWays hasExample={page.tags.includes(EXAMPLE_TAG)} onExample={example} />}
          <Button type="primary" icon={<PlusOutlined aria-hidden />} onClick={() => setCreating(true)}>
            {msg.newJob}
          </Button>
        </span>
      </div>
      {fresh ? (
        <Doors onExample={example} />
      ) : (
        <>
          <Filters query={query} page={page} go={go} />
          <div aria-busy={busy} className={styles['rows']}>
            <DataTable
              name="jobs"
              rows={jobs}
              columns={columns}
              rowKey={(j) => j.id}
              selected={chosen}
              onSelect={setChosen}
              sorted={{ key: query.sort ?? 'saved', up: query.up === '1' }}
              tools={
                <Bulk
                  jobs={picked}
                  onDone={() => setChosen([])}
                  onTrash={() => void trash(picked).catch(tell)}
                  onArchive={() => void archive(picked, !picked.every((j) => j.archived)).catch(tell)}
                />
              }
              empty={
                query.state === 'archived' ? 'Nothing has been archived.' : 'No job meets all of this. Take a filter away, or show all.'
              }
              pagination={total > jobs.length ? { current: query.page ?? 1, pageSize: 25, total, showSizeChanger: false } : false}
              onChange={(at, _filters, sorter, { action }) => {
                const by = Array.isArray(sorter) ? sorter[0] : sorter;
                if (action === 'paginate') go({ ...query, page: at.current });
                if (action === 'sort')
                  go({
                    ...query,
                    page: undefined,
                    sort: by?.order ? (by.columnKey as BoardQuery['sort']) : undefined,
                    up: by?.order === 'ascend' ? '1' : undefined,
                  });
              }}
            />
          </div>
        </>
      )}
      {creating && (
        <NewJob
          onClose={() => setCreating(false)}
          onCreate={async (name, preset) => open((await send<{ id: string }>('POST', '/api/jobs', { name, preset })).id, 'car')}
        />
      )}
    </div>
  );
}
