'use client';

import { Input } from 'antd';
import { useState } from 'react';
import { Dialog } from '@/ui/dialog';
import { msg } from './messages';
import type { Entry } from './use-sheet';

export interface Question {
  readonly question: string;
  readonly entry: (reason: string) => Entry;
}

/** Asks for the reason that an undone step or a failed check must have. */
export function AskReason({ asked, onWrite, onClose }: { asked: Question; onWrite: (entry: Entry) => void; onClose: () => void }) {
  const [reason, setReason] = useState('');
  return (
    <Dialog
      open
      title={asked.question}
      okText={msg.writeItDown}
      okButtonProps={{ disabled: reason.trim() === '' }}
      onCancel={onClose}
      onOk={() => {
        onWrite(asked.entry(reason.trim()));
        onClose();
      }}
      width={420}
    >
      <Input.TextArea
        aria-label={msg.inAFewWords}
        autoFocus
        rows={2}
        maxLength={400}
        value={reason}
        onChange={(e) => setReason(e.target.value)}
      />
    </Dialog>
  );
}
