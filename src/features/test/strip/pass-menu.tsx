'use client';

import { Button, Input, Select } from 'antd';
import { useState } from 'react';
import type { StoredPass } from '@/core/documents/strip';
import { HistoryButton } from '@/features/history/button';
import { useRuns, useShelf } from '@/features/job/provider';
import { useReported } from '@/ui/reported';
import { useUndo } from '@/ui/undo';
import { msg } from './messages';
import type { Strip } from './use-strip';

/** What else is said of a pass, and what can be done with it. */
export function PassMenu({ pass, strip, onEdit }: { pass: StoredPass; strip: Strip; onEdit: () => void }) {
  const undo = useUndo();
  const reported = useReported();
  const shelf = useShelf();
  const { runs } = useRuns();
  const [reason, setReason] = useState('');
  const { doc } = pass;
  const save = (more: Partial<StoredPass['doc']>): void => void reported(() => strip.savePass(pass, { ...doc, ...more }));
  const logs = runs.filter((r) => r.doc.kind === 'log');
  return (
    <div style={{ display: 'grid', gap: 8, width: 260 }}>
      <Button size="small" onClick={onEdit}>
        {msg.putItsFiguresRight}
      </Button>
      <Select
        aria-label={msg.onTheCarInThisPass}
        value={doc.side === null ? '' : doc.side.kind === 'stock' ? 'stock' : doc.side.unitId}
        options={[
          { value: '', label: msg.sideNotSaid },
          { value: 'stock', label: msg.stock },
          ...shelf.map((u) => ({ value: u.id, label: u.doc.name })),
        ]}
        onChange={(v) => save({ side: v === '' ? null : v === 'stock' ? { kind: 'stock' } : { kind: 'unit', unitId: v } })}
      />
      <Select
        aria-label={msg.logOfThisPass}
        value={doc.runId ?? ''}
        options={[{ value: '', label: msg.noLog }, ...logs.map((r) => ({ value: r.id, label: r.doc.name }))]}
        onChange={(v) => save({ runId: v === '' ? null : v })}
      />
      {doc.leftOut === null ? (
        <div style={{ display: 'flex', gap: 6 }}>
          <Input
            size="small"
            aria-label={msg.whyItIsLeftOut}
            placeholder={msg.whyMissedAGear}
            value={reason}
            onChange={(e) => setReason(e.target.value)}
          />
          <Button size="small" disabled={reason.trim() === ''} onClick={() => save({ leftOut: reason.trim() })}>
            {msg.leaveOut}
          </Button>
        </div>
      ) : (
        <Button size="small" onClick={() => save({ leftOut: null })}>
          {msg.countItAgain}
        </Button>
      )}
      <HistoryButton kind="strip_pass" id={pass.id} title={`the pass at ${doc.at ?? 'no time'}`} />
      <Button
        size="small"
        type="text"
        onClick={() =>
          void reported(async () => {
            await strip.removePass(pass);
            undo(`The pass at ${doc.at ?? 'no time'} is in the trash.`, () => reported(() => strip.bringBack(pass)));
          })
        }
      >
        {msg.intoTheTrash}
      </Button>
    </div>
  );
}
