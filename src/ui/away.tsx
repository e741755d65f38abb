'use client';

import { Button } from 'antd';
import { useEffect, useState } from 'react';
import { msg } from './messages';

/** Whether the server answers just now. */
export const serverAnswers = (): Promise<boolean> =>
  fetch('/api/health', { cache: 'no-store' }).then(
    (r) => r.ok,
    () => false,
  );

/**
 * What keeps a part of the page away. Where the server answers, it has most likely been renewed since this page was opened, and no
 * longer has the part that goes with it.
 */
export function useAwayBecause(): 'server away' | 'page old' {
  const [answers, setAnswers] = useState(false);
  useEffect(() => {
    let current = true;
    void serverAnswers().then((does) => current && setAnswers(does));
    return () => {
      current = false;
    };
  }, []);
  return answers ? 'page old' : 'server away';
}

export const AWAY_WORDS = { 'server away': msg.serverAway, 'page old': msg.pageOld } as const;

/** What brings a part that did not come: the page anew where it is an old one, and the part itself. */
export function AwayActs({ because, again, small = false }: { because: 'server away' | 'page old'; again: () => void; small?: boolean }) {
  const size = small ? 'small' : 'middle';
  return (
    <>
      {because === 'page old' && (
        <Button size={size} type={small ? 'default' : 'primary'} onClick={() => location.reload()}>
          {msg.reloadThePage}
        </Button>
      )}
      <Button size={size} type={small || because === 'page old' ? 'default' : 'primary'} onClick={again}>
        {msg.tryAgain}
      </Button>
    </>
  );
}

/** In the place of a small part that did not come. */
export function AwayLine({ what, again, className }: { what: string; again: () => void; className?: string | undefined }) {
  const because = useAwayBecause();
  return (
    <div className={className}>
      <div style={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 8 }}>
        {what} {AWAY_WORDS[because]}
        <AwayActs small because={because} again={again} />
      </div>
    </div>
  );
}
