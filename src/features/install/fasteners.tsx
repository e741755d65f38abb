'use client';

import { Button, Input, InputNumber } from 'antd';
import { useState } from 'react';
import type { SheetState } from '@/core/install/run-sheet';
import { Heading } from '@/ui/answer/stop';
import styles from './install.module.css';
import type { Entry } from './use-sheet';

const MOST = 200;

/** A bag a cover: how many came out and went back. The sheet does not close while a count differs. */
export function Fasteners({ state, named, onWrite }: { state: SheetState; named: boolean; onWrite: (entry: Entry) => void }) {
  const [bag, setBag] = useState('');
  const [count, setCount] = useState<number | null>(null);
  const name = bag.trim();
  const known = state.bags.has(name);
  return (
    <>
      <Heading>Fasteners, a bag a cover</Heading>
      {state.bags.size > 0 && (
        <table className="plain">
          <thead>
            <tr>
              <th>bag</th>
              <th className="num">out</th>
              <th className="num">back</th>
            </tr>
          </thead>
          <tbody>
            {[...state.bags].map(([key, { out, back }]) => (
              <tr key={key} data-open={out !== back}>
                <td>{key}</td>
                <td className="num">{out}</td>
                <td className="num">
                  <InputNumber
                    aria-label={`Back from ${key}`}
                    size="small"
                    min={0}
                    max={MOST}
                    precision={0}
                    value={back}
                    disabled={!named}
                    style={{ width: 64 }}
                    onChange={(n) => n !== null && n !== back && onWrite({ type: 'fasteners back', bag: key, count: n })}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <div className={`${styles['bag']} no-print`}>
        <Input aria-label="Bag of" placeholder="engine cover" maxLength={40} value={bag} onChange={(e) => setBag(e.target.value)} />
        <InputNumber
          aria-label="Came out"
          placeholder="out"
          min={0}
          max={MOST}
          precision={0}
          value={count}
          onChange={setCount}
          style={{ width: 76 }}
        />
        <Button
          disabled={!named || name === '' || count === null || known}
          onClick={() => {
            onWrite({ type: 'fasteners out', bag: name, count: count ?? 0 });
            setBag('');
            setCount(null);
          }}
        >
          add
        </Button>
      </div>
      {known && <p className={styles['failed']}>There is a bag of that name already.</p>}
    </>
  );
}
