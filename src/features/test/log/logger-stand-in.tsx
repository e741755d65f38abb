'use client';

import { Button, Checkbox, Select } from 'antd';
import { useEffect, useRef, useState } from 'react';
import { LOGGER_COLUMNS, type LoggerRow } from '@/core/stand-ins/logger';
import { WARTS } from '@/core/stand-ins/warts';
import { useJob, useShelf } from '@/features/job/provider';
import { formatNumber } from '@/core/units/quantity';
import type { useImports } from '../files/imports';
import styles from '../test.module.css';
import { msg } from './messages';

const SEEDS = 100_000;

/** The stand-in logger: drives this job's car for a minute, live or as a file with whatever is odd about files. */
export function LoggerStandIn({ imports }: { imports: ReturnType<typeof useImports> }) {
  const id = useJob((s) => s.id);
  const shelf = useShelf();
  const [side, setSide] = useState('stock');
  const [wart, setWart] = useState('plain');
  const [hunts, setHunts] = useState(false);
  const [rows, setRows] = useState<readonly LoggerRow[]>([]);
  const [live, setLive] = useState(false);
  const [wrong, setWrong] = useState<string | null>(null);
  const [seed, setSeed] = useState(() => Math.floor(performance.now() * 997) % SEEDS);
  const source = useRef<EventSource | null>(null);
  useEffect(() => () => source.current?.close(), []);
  const name = shelf.find((u) => u.id === side)?.doc.name ?? 'stock';
  const query = (more: Record<string, string>): string =>
    `/api/stand-ins/logger?${new URLSearchParams({ job: id, ...(side !== 'stock' && { unit: side }), seed: String(seed), hunting: hunts ? '60' : '0', ...more })}`;
  const write = async (): Promise<void> => {
    setWrong(null);
    const response = await fetch(query({ wart })).catch(() => null);
    if (!response?.ok) return setWrong('The practice logger does not answer; the server is away, or this car cannot be solved yet.');
    const called = /filename="([^"]+)"/.exec(response.headers.get('content-disposition') ?? '')?.[1] ?? 'logger.csv';
    imports.take([new File([await response.blob()], `${name} ${called}`)]);
    setSeed((s) => s + 1);
  };
  const stop = (): void => {
    source.current?.close();
    source.current = null;
    setLive(false);
  };
  const run = (): void => {
    stop();
    const held: LoggerRow[] = [];
    setRows([]);
    setWrong(null);
    setLive(true);
    const made = new EventSource(query({ live: '1' }));
    source.current = made;
    made.onmessage = (e: MessageEvent<string>) => {
      held.push(...(JSON.parse(e.data) as LoggerRow[]));
      setRows([...held]);
    };
    made.onerror = () => {
      stop();
      setWrong('The logger broke off. What it sent until then is not kept.');
    };
    made.addEventListener('end', () => {
      stop();
      const header = LOGGER_COLUMNS.map((c) => (c.unit ? `${c.name} (${c.unit})` : c.name)).join(',');
      const text = [header, ...held.map((r) => r.map((v) => v ?? '').join(',')), ''].join('\n');
      imports.take([new File([text], `${name} logger live ${seed}.csv`, { type: 'text/csv' })]);
      setSeed((s) => s + 1);
    });
  };
  const last = rows.at(-1);
  return (
    <details className={styles['standIn']}>
      <summary>{msg.practiceLogger}</summary>
      <p className="quiet">{msg.drivesThisJobsCarForA}</p>
      <Select
        aria-label={msg.onTheLoggedCar}
        size="small"
        style={{ width: '100%' }}
        value={side}
        options={[{ value: 'stock', label: msg.stock }, ...shelf.map((u) => ({ value: u.id, label: u.doc.name }))]}
        onChange={setSide}
      />
      <Select
        aria-label={msg.whatIsOddAboutTheFile}
        size="small"
        style={{ width: '100%', marginTop: 6 }}
        value={wart}
        options={WARTS.map((w) => ({ value: w.id, label: w.say }))}
        onChange={setWart}
      />
      <Checkbox checked={hunts} onChange={(e) => setHunts(e.target.checked)}>
        {msg.itsIdleHunts}
      </Checkbox>
      {last && (
        <p className="quiet" aria-live="off">
          {formatNumber(last[0] ?? 0, 1)} s, {formatNumber(last[1] ?? 0, 0)} {msg.rpmThrottle} {formatNumber(last[2] ?? 0, 0)} %
        </p>
      )}
      {wrong && (
        <p className={styles['wrong']} role="alert">
          {wrong}
        </p>
      )}
      <div className={styles['takers']}>
        <Button size="small" onClick={() => void write()}>
          {msg.writeAFile}
        </Button>
        {live ? (
          <Button size="small" danger onClick={stop}>
            {msg.stop}
          </Button>
        ) : (
          <Button size="small" onClick={run}>
            {msg.driveLive}
          </Button>
        )}
      </div>
    </details>
  );
}
