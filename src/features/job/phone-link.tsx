'use client';

import { Button } from 'antd';
import { useState } from 'react';
import { useJob } from '@/features/job/provider';
import { send } from '@/ui/post';
import styles from './phone-link.module.css';
import { Dialog } from '@/ui/dialog';
import { msg } from './messages';

interface Pairing {
  /** Where the phone opens it, one for each address of this machine; empty: no phone can reach it. */
  readonly links: readonly string[];
  readonly minutes: number;
  readonly why: string | null;
}

/** Shows a code that opens this job on a phone, signed in. */
export function PhoneLink({ stop }: { stop: 'install' | 'strip' }) {
  const id = useJob((s) => s.id);
  const [shown, setShown] = useState<{ pairing: Pairing; svg: string | null } | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const open = async (): Promise<void> => {
    try {
      const pairing = await send<Pairing>('POST', '/api/pairings', { jobId: id, stop, origin: location.origin });
      const [link] = pairing.links;
      // The code comes from the server as the link does: who cannot be reached for one has neither.
      const { toString: qrSvg } = await import('qrcode');
      setShown({ pairing, svg: link === undefined ? null : await qrSvg(link, { type: 'svg', margin: 2, errorCorrectionLevel: 'M' }) });
      setWrong(null);
    } catch (error) {
      setWrong((error as Error).message);
    }
  };
  return (
    <>
      <Button className="no-print" onClick={() => void open()}>
        {msg.openOnAPhone}
      </Button>
      {wrong && <p role="alert">{wrong}</p>}
      <Dialog open={shown !== null} title={msg.openOnAPhone} footer={null} onCancel={() => setShown(null)} width={420}>
        {shown?.svg ? (
          <>
            {/* The code is drawn by a library from an address this server made. */}
            <div className={styles['code']} role="img" aria-label={msg.codeToScan} dangerouslySetInnerHTML={{ __html: shown.svg }} />
            <p>
              {msg.scanItWithThePhonesCamera} {stop === 'install' ? 'run-sheet' : 'strip day'}
              {msg.signedInOnceWithin} {shown.pairing.minutes} {msg.minutes}
            </p>
            <p className="quiet">
              {msg.orType} <code className={styles['link']}>{shown.pairing.links[0]}</code>
            </p>
          </>
        ) : (
          <p>{shown?.pairing.why}</p>
        )}
      </Dialog>
    </>
  );
}
