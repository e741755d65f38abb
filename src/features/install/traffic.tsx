'use client';

import { Button } from 'antd';
import type { SheetEventDoc } from '@/core/documents/sheet';
import type { SheetState } from '@/core/install/run-sheet';
import type { InstallStep } from '@/core/install/steps';
import { outbox } from '@/features/offline/outbox';
import { usePrefs } from '@/ui/theme/prefs';
import { eventText } from './event-words';
import { asideText } from './history';
import styles from './install.module.css';
import { msg } from './messages';
import type { SheetLog } from './use-sheet';

/** What is on its way, what was not taken, and what others do meanwhile. */
export function Traffic({ sheet, steps, state }: { sheet: SheetLog; steps: readonly InstallStep[]; state: SheetState }) {
  const { dates } = usePrefs();
  const [newest] = sheet.heard;
  const mine = state.setAside.filter((a) => a.event.device === sheet.device);
  return (
    <>
      {newest && (
        <p role={newest.type === 'failed' ? 'alert' : 'status'} className={newest.type === 'failed' ? styles['failed'] : styles['heard']}>
          {newest.who} {eventText(newest, steps, sheet.kept)}, {dates.dayTime(newest.at_ms)}.
        </p>
      )}
      {sheet.live === 'away' && (
        <p role="status" className={styles['failed']}>
          {msg.whatOthersWriteDoesNotCome}
        </p>
      )}
      {sheet.waiting.length > 0 && (
        <p role="status" className="quiet">
          {sheet.waiting.length} {msg.writtenDownHereWaitingForThe}
        </p>
      )}
      {mine.map((a) => (
        <p key={a.event.id} role="alert" className={styles['failed']}>
          {asideText(a, steps)}
        </p>
      ))}
      {sheet.refusedLater.map((i) => (
        <p key={i.seq} role="alert" className={styles['failed']}>
          {msg.notTaken}
          {i.kind === 'photo' ? 'a photo' : eventText(i.body as SheetEventDoc, steps)}”. {i.refused}{' '}
          <Button size="small" onClick={() => void outbox().dismiss(i.seq)}>
            {msg.iHaveReadIt}
          </Button>
        </p>
      ))}
      {sheet.refused && (
        <p role="alert" className={styles['failed']}>
          {sheet.refused}
        </p>
      )}
    </>
  );
}
