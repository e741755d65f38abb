'use client';

import { App, Button, Select } from 'antd';
import { useState } from 'react';
import type { RunDoc, RunSide, StoredRun } from '@/core/documents/run';
import { formatQuantity } from '@/core/units/quantity';
import { useJobStore, useRuns, useShelf } from '@/features/job/provider';
import { failureText } from '@/ui/answer/words';
import { usePrefs } from '@/ui/theme/prefs';
import type { PreparedRun } from './compare.worker';
import { RunRecord } from './run-record';
import { removeRun, saveRun } from './save-run';
import styles from './test.module.css';

const sideKey = (side: RunSide | null): string => (side === null ? 'none' : side.kind === 'stock' ? 'stock' : side.unitId);
const sideOf = (key: string): RunSide | null =>
  key === 'none' ? null : key === 'stock' ? { kind: 'stock' } : { kind: 'unit', unitId: key };

function Run({
  run,
  prepared,
  onEdit,
  onRemove,
  onSave,
}: {
  run: StoredRun;
  prepared: PreparedRun | undefined;
  onEdit: () => void;
  onRemove: () => void;
  onSave: (doc: RunDoc) => void;
}) {
  const { pack } = usePrefs();
  const shelf = useShelf();
  const options = [
    { value: 'none', label: 'which side?' },
    { value: 'stock', label: 'stock' },
    ...shelf.map((u) => ({ value: u.id, label: u.doc.name })),
  ];
  const out = run.doc.leftOut !== null;
  const facts =
    prepared && !prepared.failure
      ? [
          `${prepared.swept.toLocaleString('en-US')} samples`,
          prepared.correction === 'unknown' ? 'correction unknown' : prepared.correction === 'none' ? 'uncorrected' : prepared.correction,
          prepared.inletAirStart_K === null ? null : `inlet ${formatQuantity(prepared.inletAirStart_K, 'temperature', pack)}`,
          prepared.block > 1 ? `averaged by ${prepared.block}` : null,
        ].filter(Boolean)
      : [];
  return (
    <div className={styles['run']} data-out={out}>
      <div className={styles['runHead']}>
        <span className={styles['runName']}>{run.doc.name}</span>
      </div>
      <p
        className={styles['runFacts']}
        title={prepared ? `${prepared.swept} of ${prepared.samples} samples of the file are in the pull` : undefined}
      >
        {facts.join(' · ')}
      </p>
      {prepared?.failure && (
        <p className={styles['wrong']} role="alert">
          {failureText(prepared.failure, pack)}
        </p>
      )}
      <div className={styles['runHead']} style={{ marginTop: 4 }}>
        <Select
          aria-label={`Side of ${run.doc.name}`}
          size="small"
          style={{ flex: 1, minWidth: 0 }}
          status={run.doc.side === null ? 'warning' : ''}
          value={sideKey(run.doc.side)}
          options={options}
          onChange={(key) => onSave({ ...run.doc, side: sideOf(key) })}
        />
        <Button size="small" aria-label={`Record of ${run.doc.name}`} onClick={onEdit}>
          record
        </Button>
        <Button size="small" type="text" aria-label={`Take out ${run.doc.name}`} title="Take out of this job" onClick={onRemove}>
          ×
        </Button>
      </div>
    </div>
  );
}

/** The job's runs: side, what was made of them, and their records. */
export function RunsList({ prepared }: { prepared: readonly PreparedRun[] }) {
  const { runs, setRuns } = useRuns();
  const store = useJobStore();
  const { message, modal } = App.useApp();
  const [editing, setEditing] = useState<StoredRun | null>(null);
  const save = async (run: StoredRun, doc: RunDoc): Promise<void> => {
    const saved = await saveRun(run, doc);
    setRuns((list) => list.map((r) => (r.id === run.id ? saved.run : r)));
    store.setState({ findings: saved.findings });
  };
  const remove = (run: StoredRun): void => {
    modal.confirm({
      title: `Take “${run.doc.name}” out of this job?`,
      content: 'Its record goes; the file itself can be dropped in again.',
      okText: 'Take out',
      onOk: async () => {
        try {
          const findings = await removeRun(run.id);
          setRuns((list) => list.filter((r) => r.id !== run.id));
          store.setState({ findings });
          setEditing(null);
        } catch (error) {
          void message.error((error as Error).message);
        }
      },
    });
  };
  return (
    <>
      {runs.map((run) => (
        <Run
          key={run.id}
          run={run}
          prepared={prepared.find((p) => p.id === run.id)}
          onEdit={() => setEditing(run)}
          onRemove={() => remove(run)}
          onSave={(doc) => void save(run, doc).catch((e: Error) => message.error(e.message))}
        />
      ))}
      {editing && (
        <RunRecord
          run={editing}
          onClose={() => setEditing(null)}
          onSave={async (doc) => {
            await save(editing, doc);
            setEditing(null);
          }}
        />
      )}
    </>
  );
}
