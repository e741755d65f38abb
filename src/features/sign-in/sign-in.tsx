'use client';

import { Button, Input } from 'antd';
import { useEffect, useState, useSyncExternalStore } from 'react';
import { Refused, send } from '@/ui/post';
import { placeOf } from './place';
import styles from './sign-in.module.css';
import { msg } from './messages';

/** The way in: the shop's passphrase. */
export function SignIn({ shop }: { shop: string }) {
  const [passphrase, setPassphrase] = useState('');
  const [wrong, setWrong] = useState<string | null>(null);
  const [wait, setWait] = useState(0);
  const [busy, setBusy] = useState(false);
  const oldCode = useSyncExternalStore(
    () => () => {},
    () => new URLSearchParams(location.search).get('code') === 'old',
    () => false,
  );
  useEffect(() => {
    if (wait <= 0) return;
    const timer = setTimeout(() => setWait(wait - 1), 1000);
    return () => clearTimeout(timer);
  }, [wait]);
  const enter = async (): Promise<void> => {
    setBusy(true);
    try {
      await send('POST', '/api/sign-in', { passphrase });
      location.assign(placeOf(new URLSearchParams(location.search).get('to'), location.origin));
    } catch (error) {
      setWrong((error as Error).message);
      const seconds = error instanceof Refused ? error.data['wait_s'] : 0;
      if (typeof seconds === 'number') setWait(seconds);
      setBusy(false);
    }
  };
  return (
    <main className={styles['page']}>
      <form
        className={styles['form']}
        onSubmit={(e) => {
          e.preventDefault();
          void enter();
        }}
      >
        <p className="quiet">{msg.vanner}</p>
        <h1>{shop || 'A shop'}</h1>
        <Input.Password
          autoFocus
          size="large"
          aria-label={msg.theShopsPassphrase}
          placeholder={msg.theShopsPassphrase2}
          autoComplete="current-password"
          value={passphrase}
          onChange={(e) => setPassphrase(e.target.value)}
        />
        {oldCode && !wrong && <p role="status">{msg.thatCodeWasUsedAlreadyOr}</p>}
        {wrong && (
          <p className={styles['wrong']} role="alert">
            {wait > 0 ? `Too many wrong attempts. Wait ${wait} s.` : wrong}
          </p>
        )}
        <Button type="primary" size="large" htmlType="submit" disabled={busy || wait > 0 || passphrase === ''}>
          {msg.signIn}
        </Button>
      </form>
    </main>
  );
}
