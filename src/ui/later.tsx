'use client';

import { App } from 'antd';
import dynamic from 'next/dynamic';
import { useEffect, type ComponentType } from 'react';
import { StopPage } from './answer/stop-page';
import { AWAY_WORDS, AwayActs, serverAnswers, useAwayBecause } from './away';
import { msg } from './messages';
import { refetched, type Away } from './refetched';

/** A part that did not come says so and closes, and the page around it stays. */
function Unreachable({ onClose }: { onClose?: () => void }) {
  const { message } = App.useApp();
  useEffect(() => {
    void serverAnswers().then((does) =>
      message.error(`${msg.this} ${does ? msg.pageOld : msg.serverAway} ${does ? msg.thenReload : msg.thenAgain}`, 6),
    );
    onClose?.();
  }, [message, onClose]);
  return null;
}

/** In the place of a view that did not come: what chooses another one stays above it. */
export function AwayView({ again }: Away) {
  const because = useAwayBecause();
  return (
    <StopPage tone="danger" answer={`${msg.thisView} ${AWAY_WORDS[because]}`} reason={msg.whatWasTypedIsKept} aside={null}>
      <div style={{ display: 'flex', gap: 8, marginTop: 14 }}>
        <AwayActs because={because} again={again} />
      </div>
    </StopPage>
  );
}

/** A part of a page that comes when it is opened. Not for what is used at the car or at the strip: there is no network there. */
export const later = <P extends object>(
  load: () => Promise<ComponentType<P>>,
  Instead: ComponentType<P & Away> = Unreachable as ComponentType<P & Away>,
): ComponentType<P> => dynamic<P>(() => load().catch(() => refetched(load, Instead)), { ssr: false });
