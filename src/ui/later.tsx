'use client';

import { App } from 'antd';
import dynamic from 'next/dynamic';
import { useEffect, type ComponentType } from 'react';

/** The server went away before this part came: it says so and closes, and the page around it stays. */
function Unreachable({ onClose }: { onClose?: () => void }) {
  const { message } = App.useApp();
  useEffect(() => {
    void message.error('This could not be fetched from the server. Try again when it is back; what stands on the page is kept.', 6);
    onClose?.();
  }, [message, onClose]);
  return null;
}

/** A part of a page that comes when it is opened. Not for what is used at the car or at the strip: there is no network there. */
export const later = <P extends object>(load: () => Promise<ComponentType<P>>): ComponentType<P> =>
  dynamic<P>(() => load().catch(() => Unreachable as ComponentType<P>), { ssr: false });
