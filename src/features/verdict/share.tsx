'use client';

import { App, Button, Select } from 'antd';
import { useEffect, useState } from 'react';
import type { ShareLink } from '@/server/share';
import { useJob } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop-page';
import { send } from '@/ui/post';
import { usePrefs } from '@/ui/theme/prefs';
import styles from './verdict.module.css';
import { msg } from './messages';

const DAYS = [7, 30, 90, 365] as const;

/** The customer's page: a PDF, and links that open it and nothing else until they run out or are revoked. */
export function Share() {
  const id = useJob((s) => s.id);
  const {
    packName: pack,
    dates: { day },
  } = usePrefs();
  const { message } = App.useApp();
  const [links, setLinks] = useState<readonly ShareLink[]>([]);
  const [days, setDays] = useState<number>(30);
  const [made, setMade] = useState<string | null>(null);
  useEffect(() => {
    let current = true;
    send<ShareLink[]>('GET', `/api/jobs/${id}/links`)
      .then((list) => current && setLinks(list))
      // Making one says what is wrong.
      .catch(() => {});
    return () => {
      current = false;
    };
  }, [id]);
  const make = async (): Promise<void> => {
    try {
      const { link, token } = await send<{ link: ShareLink; token: string }>('POST', `/api/jobs/${id}/links`, { days, pack });
      setLinks((list) => [link, ...list]);
      setMade(`${location.origin}/c/${token}`);
    } catch (error) {
      void message.error((error as Error).message);
    }
  };
  const revoke = async (link: ShareLink): Promise<void> => {
    try {
      setLinks(await send<ShareLink[]>('DELETE', `/api/jobs/${id}/links/${link.id}`));
      setMade(null);
    } catch (error) {
      void message.error((error as Error).message);
    }
  };
  return (
    <>
      <Heading>{msg.forTheCustomer}</Heading>
      <div className={styles['actions']}>
        <Button href={`/api/jobs/${id}/pdf?pack=${pack}`} target="_blank">
          {msg.pdf}
        </Button>
        <Button onClick={() => void make()}>{msg.makeALink}</Button>
        <Select
          aria-label={msg.daysTheLinkOpens}
          value={days}
          options={DAYS.map((d) => ({ value: d, label: d === 365 ? 'for a year' : `for ${d} days` }))}
          onChange={setDays}
        />
      </div>
      {made && (
        <p className={styles['made']}>
          <input readOnly aria-label={msg.theNewLink} value={made} onFocus={(e) => e.target.select()} />
          <Button
            size="small"
            onClick={() =>
              void navigator.clipboard.writeText(made).then(
                () => message.success('Copied.'),
                () => message.info('The browser does not let this page write to the clipboard: copy the link by hand.'),
              )
            }
          >
            {msg.copy}
          </Button>
          <span className="quiet">{msg.shownThisOnceOnlyItsFingerprint}</span>
        </p>
      )}
      {links.length > 0 && (
        <ul className={styles['links']}>
          {links.map((link) => (
            <li key={link.id}>
              <span>
                {msg.made} {day(link.madeAt)}
                {msg.opensUntil} {day(link.expiresAt)},{' '}
                {link.opened === 0 ? 'not opened yet' : `opened ${link.opened === 1 ? 'once' : `${link.opened} times`}`}
              </span>
              <Button size="small" type="text" aria-label={`Revoke the link made ${day(link.madeAt)}`} onClick={() => void revoke(link)}>
                {msg.revoke}
              </Button>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}
