'use client';

import { EllipsisOutlined } from '@ant-design/icons';
import { App, Button, Dropdown } from 'antd';
import { useRouter } from 'next/navigation';
import type { BoardJob } from '@/server/jobs';
import { Link } from '@/ui/link';
import { send } from '@/ui/post';
import { useUndo } from '@/ui/undo';
import { msg } from './messages';

/** What is done with jobs, one or many, and how it is taken back. `onDone` once a row or several changed. */
export function useBoardActs(onDone: () => void) {
  const router = useRouter();
  const { message } = App.useApp();
  const undo = useUndo();
  const tell = (error: unknown): void => void message.error((error as Error).message);
  const each = async (list: readonly BoardJob[], change: (job: BoardJob) => Promise<unknown>): Promise<void> => {
    for (const job of list) await change(job);
    onDone();
    router.refresh();
  };
  const names = (list: readonly BoardJob[]): string => (list.length === 1 ? list[0]!.name : `${list.length} jobs`);
  const trash = (list: readonly BoardJob[], trashed = true): Promise<void> =>
    each(list, (j) => send('POST', '/api/trash', { kind: 'job', id: j.id, trashed })).then(() => {
      if (trashed) undo(`${names(list)} ${list.length === 1 ? 'is' : 'are'} in the trash.`, () => trash(list, false).catch(tell));
    });
  const archive = (list: readonly BoardJob[], to: boolean, again = true): Promise<void> =>
    each(list, (j) => send('POST', `/api/jobs/${j.id}/archive`, { archived: to })).then(() => {
      if (again) undo(`${names(list)} ${to ? 'archived' : 'back on the board'}.`, () => archive(list, !to, false).catch(tell));
    });
  const act = (job: BoardJob, what: 'duplicate' | 'archive' | 'trash'): void => {
    if (what === 'trash') trash([job]).catch(tell);
    else if (what === 'archive') archive([job], !job.archived).catch(tell);
    else
      send('POST', '/api/jobs', { duplicateOf: job.id })
        .then(() => {
          void message.success('Duplicated.');
          router.refresh();
        })
        .catch(tell);
  };
  return {
    act,
    tell,
    trash: (list: readonly BoardJob[]) => trash(list),
    archive: (list: readonly BoardJob[], to: boolean) => archive(list, to),
  };
}

/** Other ways to begin than a new job: the guided one, and the example that may be put there and taken away. */
export function MoreWays({ hasExample, onExample }: { hasExample: boolean; onExample: () => Promise<void> }) {
  const router = useRouter();
  const { message } = App.useApp();
  const tell = (error: unknown): void => void message.error((error as Error).message);
  return (
    <Dropdown
      trigger={['click']}
      menu={{
        items: [
          { key: 'start', label: <Link href="/start">{msg.sizeAThrottleStepByStep}</Link> },
          ...(hasExample ? [{ key: 'remove', label: msg.removeTheExample }] : [{ key: 'example', label: msg.loadTheExample }]),
        ],
        onClick: ({ key }) => {
          if (key === 'example') onExample().catch(tell);
          if (key === 'remove')
            send('DELETE', '/api/jobs')
              .then(() => {
                void message.success('The example and its throttles are in the trash.');
                router.refresh();
              })
              .catch(tell);
        },
      }}
    >
      <Button icon={<EllipsisOutlined aria-hidden />} aria-label={msg.moreWaysToBegin} />
    </Dropdown>
  );
}
