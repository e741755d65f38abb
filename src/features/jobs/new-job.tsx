'use client';

import { Input, Modal, Select } from 'antd';
import { useState } from 'react';
import { ENGINE_PRESETS } from '@/core/job/presets';

const PRESETS = Object.keys(ENGINE_PRESETS).map((value) => ({ value, label: value }));

/** A name and the nearest engine: enough to have an answer on the next page. */
export function NewJob({ onClose, onCreate }: { onClose: () => void; onCreate: (name: string, preset: string) => Promise<void> }) {
  const [name, setName] = useState('');
  const [preset, setPreset] = useState(PRESETS[1]!.value);
  const [wrong, setWrong] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const create = async (): Promise<void> => {
    if (name.trim() === '') return setWrong('Give the job a name: the car, or its owner.');
    setBusy(true);
    try {
      await onCreate(name.trim(), preset);
    } catch (error) {
      setWrong(error instanceof Error && error.message ? error.message : 'The server is away. Try again.');
      setBusy(false);
    }
  };
  return (
    <Modal open title="New job" okText="Create" onOk={() => void create()} confirmLoading={busy} onCancel={onClose} width={460}>
      <label>
        <span className="label">Name</span>
        <Input
          autoFocus
          maxLength={80}
          value={name}
          status={wrong ? 'error' : ''}
          placeholder="Sparrow saloon"
          onChange={(e) => setName(e.target.value)}
          onPressEnter={() => void create()}
        />
      </label>
      {wrong && (
        <p role="alert" style={{ color: 'var(--danger)', marginTop: 4 }}>
          {wrong}
        </p>
      )}
      <div style={{ marginTop: 14 }}>
        <span className="label">Nearest engine, naturally aspirated</span>
        <Select aria-label="Nearest engine" style={{ width: '100%' }} value={preset} onChange={setPreset} options={PRESETS} />
        <p className="quiet" style={{ marginTop: 6 }}>
          A start only. Everything it fills in is marked assumed until you put in your own.
        </p>
      </div>
    </Modal>
  );
}
