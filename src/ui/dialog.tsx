'use client';

import { Drawer, Modal, type DrawerProps, type ModalProps } from 'antd';
import { useEffect, useState } from 'react';

/**
 * What had the focus when this opened gets it back when it goes, however it goes: most dialogs here are taken out of the page as
 * they close, before their library could give it back.
 */
function useFocusReturn(): void {
  const [before] = useState(() => (typeof document === 'undefined' ? null : document.activeElement));
  useEffect(
    () => () => {
      // After what closes it has run its course; whatever took the focus meanwhile keeps it.
      setTimeout(() => {
        const now = document.activeElement;
        const lost = now === null || now === document.body || now.closest('[role=dialog]') !== null;
        if (lost && before instanceof HTMLElement && before.isConnected) before.focus();
      }, 0);
    },
    [before],
  );
}

/** Lives as long as the dialog is open. */
function FocusReturn() {
  useFocusReturn();
  return null;
}

/** Ant Design's Modal; the focus goes back to where it came from. */
export function Dialog(props: ModalProps) {
  return (
    <>
      {props.open === true && <FocusReturn />}
      <Modal {...props} />
    </>
  );
}

/** Ant Design's Drawer, the same. */
export function SideSheet(props: DrawerProps) {
  return (
    <>
      {props.open === true && <FocusReturn />}
      <Drawer {...props} />
    </>
  );
}
