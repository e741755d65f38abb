'use client';

import { Button, Checkbox, Segmented } from 'antd';
import type { StoredPractice } from '@/core/documents/practice';
import { REST_min } from '@/core/documents/within';
import { formatNumber } from '@/core/units/quantity';
import { Heading } from '@/ui/answer/stop-page';
import { FieldRow } from '@/ui/field/field-row';
import { FieldGroup } from '@/ui/field/group';
import styles from '../test.module.css';
import { msg } from './messages';
import type { NextRun, Session } from './use-session';

const MOST_DAYS = 5;

/** How the next pull or pass is made, and the button that makes it. */
export function NextRunPanel({ session, practice }: { session: Session; practice: StoredPractice }) {
  const { next, change, pull } = session;
  const atStrip = practice.setup.rig === 'strip';
  return (
    <>
      <Heading
        more={
          <span className="quiet">
            {msg.day} {next.day}, {formatNumber(practice.runs.at(-1)?.at_min ?? 0, 0)} {msg.minSoFar}
          </span>
        }
      >
        {atStrip ? 'At the strip' : 'At the practice dyno'}
      </Heading>
      <Segmented<NextRun['side']>
        block
        aria-label={msg.onTheCar}
        value={next.side}
        options={[
          { value: 'A', label: msg.stock },
          { value: 'B', label: msg.theNewPart },
        ]}
        onChange={(side) => change({ side })}
      />
      <FieldGroup>
        {(wrong) => (
          <>
            <FieldRow
              label={msg.restBeforeThePullMin}
              measure="count"
              value={next.rest_min}
              within={REST_min}
              onChange={(rest_min) => change({ rest_min })}
            />
            <Checkbox checked={next.newStay} onChange={(e) => change({ newStay: e.target.checked })}>
              {atStrip ? 'Take it off and on again first' : 'Strap down anew first'}
            </Checkbox>
            <div className={styles['takers']}>
              {pull.state === 'running' ? (
                <Button danger onClick={pull.stop}>
                  {msg.liftOff}
                </Button>
              ) : (
                <Button type="primary" disabled={wrong} onClick={session.run}>
                  {atStrip ? 'Make a pass' : 'Pull'}
                </Button>
              )}
              <Button
                disabled={next.day >= MOST_DAYS || practice.runs.every((r) => r.day < next.day)}
                onClick={() => change({ day: next.day + 1 })}
              >
                {msg.comeBackAnotherDay}
              </Button>
            </div>
          </>
        )}
      </FieldGroup>
    </>
  );
}
