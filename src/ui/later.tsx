'use client';

import { App, Button } from 'antd';
import dynamic from 'next/dynamic';
import { useEffect, type ComponentType } from 'react';
import { StopPage } from './answer/stop-page';
import { refetched, type Away } from './refetched';

/** The server went away before this part came: it says so and closes, and the page around it stays. */
function Unreachable({ onClose }: { onClose?: () => void }) {
  const { message } = App.useApp();
  useEffect(() => {
    void message.error('This could not be fetched from the server. Try again when it is back; what stands on the page is kept.', 6);
    onClose?.();
  }, [message, onClose]);
  return null;
}

/** In the place of a view that did not come: what chooses another one stays above it. */
export const AwayView = ({ again }: Away) => (
  <StopPage
    tone="danger"
    answer="This view could not be fetched: the server cannot be reached."
    reason="What was typed is kept. The views that were open before are still here."
    aside={null}
  >
    <Button type="primary" style={{ marginTop: 14 }} onClick={again}>
      Try again
    </Button>
  </StopPage>
);

/** A part of a page that comes when it is opened. Not for what is used at the car or at the strip: there is no network there. */
export const later = <P extends object>(
  load: () => Promise<ComponentType<P>>,
  Instead: ComponentType<P & Away> = Unreachable as ComponentType<P & Away>,
): ComponentType<P> => dynamic<P>(() => load().catch(() => refetched(load, Instead)), { ssr: false });
