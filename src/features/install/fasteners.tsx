'use client';

import { Button, Input } from 'antd';
import { useState } from 'react';
import { FASTENERS } from '@/core/documents/within';
import { BareField, DoneField } from '@/ui/field/field-row';
import { FieldGroup } from '@/ui/field/group';
import type { SheetState } from '@/core/install/run-sheet';
import styles from './install.module.css';
import type { Entry } from './use-sheet';
import { msg } from './messages';

/** A count that is put right by typing over it. */
const Count = ({ label, value, named, onCount }: { label: string; value: number; named: boolean; onCount: (n: number) => void }) => (
  <DoneField width={84} label={label} measure="count" value={value} within={FASTENERS} disabled={!named} onDone={onCount} />
);

interface BagsProps {
  readonly state: SheetState;
  readonly named: boolean;
  readonly onWrite: (entry: Entry) => void;
}

/** A bag a cover, counted as it comes off; a miscount is put right by typing over it, and both counts stay in the history. */
export function BagsOut({ state, named, onWrite }: BagsProps) {
  const [bag, setBag] = useState('');
  const [count, setCount] = useState<number | null>(null);
  const name = bag.trim();
  const known = state.bags.has(name);
  return (
    <div className={styles['bags']}>
      {state.bags.size > 0 && (
        <table className="plain">
          <thead>
            <tr>
              <th>{msg.bagOf}</th>
              <th className="num">{msg.cameOut}</th>
            </tr>
          </thead>
          <tbody>
            {[...state.bags].map(([key, { out }]) => (
              <tr key={key}>
                <td>{key}</td>
                <td className="num">
                  <Count
                    label={`Out of ${key}`}
                    value={out}
                    named={named}
                    onCount={(n) => onWrite({ type: 'fasteners out', bag: key, count: n })}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <FieldGroup>
        {(wrong) => (
          <div className={`${styles['bag']} no-print`}>
            <Input
              aria-label={msg.bagOf2}
              placeholder={msg.engineCover}
              maxLength={40}
              value={bag}
              onChange={(e) => setBag(e.target.value)}
            />
            <BareField
              width={100}
              label={msg.cameOut2}
              measure="count"
              placeholder={msg.howMany}
              value={count}
              within={FASTENERS}
              onChange={setCount}
              onClear={() => setCount(null)}
            />
            <Button
              disabled={wrong || !named || name === '' || count === null || known}
              onClick={() => {
                onWrite({ type: 'fasteners out', bag: name, count: count ?? 0 });
                setBag('');
                setCount(null);
              }}
            >
              {msg.add}
            </Button>
          </div>
        )}
      </FieldGroup>
      {known && <p className={styles['failed']}>{msg.thereIsABagOfThat}</p>}
    </div>
  );
}

/** The bags counted back in. The sheet does not close while a count differs. */
export const BagsBack = ({ state, named, onWrite }: BagsProps) => (
  <div className={styles['bags']}>
    <table className="plain">
      <thead>
        <tr>
          <th>{msg.bagOf}</th>
          <th className="num">{msg.cameOut}</th>
          <th className="num">{msg.wentBack}</th>
        </tr>
      </thead>
      <tbody>
        {[...state.bags].map(([key, { out, back }]) => (
          <tr key={key} data-open={out !== back}>
            <td>{key}</td>
            <td className="num">{out}</td>
            <td className="num">
              <Count
                label={`Back from ${key}`}
                value={back}
                named={named}
                onCount={(n) => onWrite({ type: 'fasteners back', bag: key, count: n })}
              />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  </div>
);
