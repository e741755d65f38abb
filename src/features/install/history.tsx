'use client';

import { Button } from 'antd';
import type { SheetEventDoc } from '@/core/documents/sheet';
import type { SheetState } from '@/core/install/run-sheet';
import type { InstallStep } from '@/core/install/steps';
import { usePrefs } from '@/ui/theme/prefs';
import { eventText, shortName } from './event-words';
import styles from './install.module.css';
import type { Entry } from './use-sheet';
import { msg } from './messages';

/** What can be taken back: ticks have their own undo, and what the engine did was done. */
const TAKEN_BACK: ReadonlySet<SheetEventDoc['type']> = new Set(['passed', 'failed', 'fasteners out', 'fasteners back', 'note', 'photo']);

/** Why an event is kept and does not count. */
export function asideText(aside: SheetState['setAside'][number], steps: readonly InstallStep[]): string {
  const { event, of, why } = aside;
  return why === 'did not know'
    ? `Kept, not counted: ${event.who} ${eventText(event, steps)} before hearing that ${of.who} ${eventText(of, steps)}. Look again and write it anew.`
    : `Kept, not counted: ${event.who} ${eventText(event, steps)}, and the work it hangs on was not done again after ${of.who} ${eventText(of, steps)}.`;
}

/** Everything that was written on the sheet, the newest first; what can be taken back is, with a reason, and stays in the list. */
export function History({
  events,
  state,
  steps,
  named,
  onReason,
}: {
  events: readonly SheetEventDoc[];
  state: SheetState;
  steps: readonly InstallStep[];
  named: boolean;
  onReason: (question: string, entry: (reason: string) => Entry) => void;
}) {
  const { dates } = usePrefs();
  const taken = new Set(events.flatMap((e) => (e.type === 'taken back' ? [e.of] : [])));
  const aside = new Map(state.setAside.map((a) => [a.event.id, a]));
  const shown = events.filter((e) => e.type !== 'rpm').toReversed();
  return (
    <details className={styles['history']}>
      <summary>
        {msg.historyOfThisSheet} <span className="quiet">{shown.length === 0 ? 'nothing written yet' : `${shown.length} entries`}</span>
      </summary>
      <ol>
        {shown.map((e) => (
          <li key={e.id} data-found={e.id} data-taken={taken.has(e.id)}>
            <div>
              <b>{e.who}</b> {eventText(e, steps, events)}
              <span className={styles['stamp']}>
                <time dateTime={new Date(e.at_ms).toISOString()} suppressHydrationWarning>
                  {dates.dayTime(e.at_ms)}
                </time>
                {e.phone_ms !== undefined && ` (that phone’s clock said ${dates.dayTime(e.phone_ms)})`}
                {taken.has(e.id) && ', revoked'}
              </span>
              {aside.has(e.id) && <span className={styles['failed']}>{asideText(aside.get(e.id)!, steps)}</span>}
            </div>
            {TAKEN_BACK.has(e.type) && !taken.has(e.id) && (
              <Button
                className="no-print"
                disabled={!named}
                aria-label={`Revoke: ${e.who} ${eventText(e, steps)}`}
                onClick={() =>
                  onReason(`Why is it revoked that ${e.who} ${eventText(e, steps)}?`, (reason) => ({
                    type: 'taken back',
                    of: e.id,
                    reason,
                  }))
                }
              >
                {msg.revoke}
              </Button>
            )}
          </li>
        ))}
      </ol>
    </details>
  );
}

/** Checks that stood as passed and are open again, each with what opened it. */
export function reopenedText(gate: string, state: SheetState, steps: readonly InstallStep[]): string | null {
  const by = state.reopened.get(gate);
  if (!by) return null;
  return by.type === 'taken back'
    ? `Open again: ${by.who} took it back (${by.reason}).`
    : `Open again: ${by.who} ${eventText(by, steps)} after it was passed. Pass ${shortName(gate, steps)} once more.`;
}
