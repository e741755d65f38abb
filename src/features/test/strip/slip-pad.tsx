'use client';

import { Button, Segmented } from 'antd';
import { useRef, useState } from 'react';
import type { StoredPass, StoredVisit } from '@/core/documents/strip';
import { Dialog } from '@/ui/dialog';
import { FieldGroup } from '@/ui/field/group';
import { msg } from './messages';
import { PassRecord } from './pass-record';
import { SideOfPass } from './side-of-pass';
import { figure } from './slip-digits';
import { SlipFace } from './slip-face';
import styles from './strip.module.css';
import { useSlipPad, type SlipPadState, type SlipPadTask } from './use-slip-pad';

/** So many of the day's passes stand under the pad. */
const MOST_LISTED = 6;

interface KeptTodayProps {
  readonly visit: StoredVisit;
  readonly day: readonly StoredPass[];
  readonly waiting: ReadonlySet<string> | undefined;
  readonly onUndo: ((pass: StoredPass) => void) | undefined;
}

/** The day's last passes, the newest first: what a new one goes on from, and the one that can be undone. */
function KeptToday({ visit, day, waiting, onUndo }: KeptTodayProps) {
  const { course, speeds } = visit.doc;
  const last = course === 'quarter' ? 't402_s' : 't201_s';
  const trap = course === 'quarter' ? 'v402_mps' : 'v201_mps';
  return (
    <ol className={styles['running']} aria-label={msg.keptToday}>
      {day
        .slice(-MOST_LISTED)
        .toReversed()
        .map((p, i) => (
          <li key={p.id}>
            <span>{p.doc.at ?? '—'}</span>
            <b>{p.doc.slip[last] === null ? '—' : figure(last, p.doc.slip[last]!, speeds)}</b>
            <b>{p.doc.slip[trap] === null ? '—' : figure(trap, p.doc.slip[trap]!, speeds)}</b>
            <span className="quiet">{waiting?.has(p.id) ? 'waits here' : 'kept'}</span>
            {onUndo && i === 0 && (
              <Button aria-label={`Undo the pass at ${p.doc.at ?? 'no time'}`} onClick={() => onUndo(p)}>
                {msg.undo}
              </Button>
            )}
          </li>
        ))}
    </ol>
  );
}

function Foot({ pad, stored, withTower, wrong }: { pad: SlipPadState; stored: boolean; withTower: boolean; wrong: boolean }) {
  const running = pad.tower.state === 'running';
  const shut = pad.shut || wrong;
  return (
    <div className={styles['foot']}>
      {withTower && !stored && (
        <Button disabled={pad.busy} onClick={running ? pad.tower.stop : pad.tower.start}>
          {running ? 'Stop' : 'Practice tower'}
        </Button>
      )}
      <Button size="large" type={stored ? 'primary' : 'default'} disabled={shut} onClick={() => void pad.keep('close')}>
        {stored ? 'Keep it so' : 'Keep this pass'}
      </Button>
      {!stored && (
        <Button type="primary" size="large" disabled={shut} onClick={() => void pad.keep('next')}>
          {msg.keepNextSlip}
        </Button>
      )}
    </div>
  );
}

/**
 * A slip typed with one thumb: the point sets itself, a full figure goes on to the next, what cannot be is said at once.
 * What is typed stays on this device until the pass is kept. `waiting`: ids of the day's passes that wait here to be sent.
 */
export function SlipPad({ waiting, ...task }: SlipPadTask & { readonly waiting?: ReadonlySet<string> | undefined }) {
  const { visit, day, stored, onUndo, tower, onClose } = task;
  const [page, setPage] = useState<'slip' | 'car'>('slip');
  const [opened, setOpened] = useState(false);
  const pad = useSlipPad(task);
  const face = useRef<HTMLDivElement>(null);
  return (
    <FieldGroup>
      {(unread) => (
        <Dialog
          open
          title={stored ? 'Put the pass right' : 'A pass'}
          footer={null}
          onCancel={onClose}
          width={440}
          className={styles['pad']!}
          // What is typed at once is typed onto the slip; the library would begin at its cross.
          afterOpenChange={(open) => open && face.current?.focus()}
          destroyOnHidden
        >
          <label className={styles['side']}>
            <span className="quiet">{msg.onTheCar}</span>
            <SideOfPass side={pad.doc.side} onChange={(side) => pad.set({ side })} />
            <Segmented
              size="small"
              aria-label={msg.partOfThePass}
              value={page}
              options={[
                { value: 'slip', label: msg.slip },
                { value: 'car', label: msg.carAndNotes },
              ]}
              onChange={(next: typeof page) => {
                setPage(next);
                setOpened(true);
              }}
            />
          </label>
          {page === 'slip' && <SlipFace ref={face} visit={visit} pad={pad} />}
          {/* What was typed there and not taken stays to be put right. */}
          {opened && (
            <div hidden={page === 'slip'}>
              <PassRecord doc={pad.doc} set={pad.set} />
            </div>
          )}
          {unread && (
            <p className={styles['wrong']} role="alert">
              {msg.aFigureUnderCarAndNotesWasNotTaken}
            </p>
          )}
          {(pad.wrong ?? pad.tower.state === 'away') && (
            <p className={styles['wrong']} role="alert">
              {pad.wrong ?? 'The practice tower broke off: the server is away. What stands here is kept.'}
            </p>
          )}
          <Foot pad={pad} stored={stored !== undefined} withTower={tower !== null} wrong={unread} />
          {!stored && day.length > 0 && (
            <KeptToday visit={visit} day={day} waiting={waiting} onUndo={onUndo && ((pass) => void pad.undo(pass))} />
          )}
        </Dialog>
      )}
    </FieldGroup>
  );
}
