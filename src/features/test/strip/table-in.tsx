'use client';

import { Button, Input, Radio, type RadioChangeEvent } from 'antd';
import { useMemo, useRef, useState } from 'react';
import { passesFromTable, tableOf, weatherFromTable, type ReadTable, type SideByName } from '@/core/strip/slip-table';
import type { StripPassDoc, WeatherReadingDoc } from '@/core/documents/strip';
import { useJob } from '@/features/job/provider';
import { ColumnsRead } from '@/ui/columns-read';
import { TABLE_FILES, tableTextOf } from '@/ui/file-text';
import { usePrefs } from '@/ui/theme/prefs';
import styles from './strip.module.css';
import { Dialog } from '@/ui/dialog';
import { msg } from './messages';

const MOST_TOLD = 12;

/** The number or name under which this job's car stands on slips, asked once: kept in this browser. */
const carKey = (jobId: string): string => `vanner-own-car-${jobId}`;
function ownCar(jobId: string): string | null {
  return typeof localStorage === 'undefined' ? null : localStorage.getItem(carKey(jobId));
}
const rememberCar = (jobId: string, car: string): void => localStorage.setItem(carKey(jobId), car);

const KINDS = {
  passes: {
    title: msg.passesFromATable,
    one: 'pass',
    many: 'passes',
    hint: msg.timeSideRT60Ft,
  },
  weather: { title: msg.theDaysAirFromATable, one: 'reading', many: 'readings', hint: msg.timeTempCPressureHpaHumidity },
} as const;

type Read = ReadTable<StripPassDoc | WeatherReadingDoc> & { cars?: readonly string[] };

/** Which of a table's cars is the own one. */
function OwnCar({ cars, car, onCar }: { cars: readonly string[]; car: string | null; onCar: (car: string) => void }) {
  return (
    <div className={styles['own']!}>
      {cars.length} {msg.carsAreInThisTableWhich}
      <Radio.Group
        aria-label={msg.theOwnCar}
        optionType="button"
        value={cars.includes(car ?? '') ? car : null}
        options={cars.map((c) => ({ value: c, label: c }))}
        onChange={(e: RadioChangeEvent) => onCar(String(e.target.value))}
      />
    </div>
  );
}

/** How a table was read: what means nothing here, what was taken for granted, and which rows are no use. */
function HowRead({ read }: { read: Read }) {
  const dampless = read.found.filter((r) => 'rhGuessed' in r && r.rhGuessed).length;
  return (
    <>
      <ColumnsRead unused={read.ignored} assumed={read.assumed} />
      {dampless > 0 && (
        <p>
          {dampless} {dampless === 1 ? 'reading gives' : 'readings give'} {msg.noHumidityUsualTaken}
        </p>
      )}
      {read.problems.length > 0 && (
        <ul className={styles['problems']}>
          {read.problems.slice(0, MOST_TOLD).map((p, i) => (
            <li key={i}>
              {msg.line} {p.line}
              {p.column && `, ${p.column}`}
              {p.cell && ` (“${p.cell}”)`}: {p.why}
            </li>
          ))}
          {read.problems.length > MOST_TOLD && (
            <li>
              {msg.and} {read.problems.length - MOST_TOLD} {msg.more}
            </li>
          )}
        </ul>
      )}
    </>
  );
}

/** A pasted table or a small file, read as it is typed: what can be taken in, and of every other row the reason why not. */
function TableIn<K extends keyof typeof KINDS>({
  kind,
  sideOf,
  onTake,
  onClose,
}: {
  kind: K;
  sideOf: SideByName;
  onTake: (found: K extends 'passes' ? readonly StripPassDoc[] : readonly WeatherReadingDoc[]) => Promise<void>;
  onClose: () => void;
}) {
  const words = KINDS[kind];
  const [text, setText] = useState('');
  const [wrong, setWrong] = useState<string | null>(null);
  const chooser = useRef<HTMLInputElement>(null);
  const { pack } = usePrefs();
  const jobId = useJob((s) => s.id);
  const [car, setCar] = useState<string | null>(() => ownCar(jobId));
  const read = useMemo<Read>(() => {
    const { header, rows } = tableOf(text);
    return kind === 'passes' ? passesFromTable(header, rows, sideOf, { car, pack }) : weatherFromTable(header, rows, pack);
  }, [text, kind, sideOf, car, pack]);
  const n = read.found.length;
  const take = (): void => {
    onTake(read.found as never).then(onClose, (e: Error) => setWrong(e.message));
  };
  return (
    <Dialog
      open
      title={words.title}
      onCancel={onClose}
      width={640}
      footer={[
        <Button key="file" onClick={() => chooser.current?.click()}>
          {msg.chooseAFile}
        </Button>,
        <Button key="take" type="primary" disabled={n === 0} onClick={take}>
          {n === 0 ? 'Nothing to import yet' : `Import ${n} ${n === 1 ? words.one : words.many}`}
        </Button>,
      ]}
    >
      <p className="quiet">
        {msg.aHeaderAndARowEach} {words.hint}
        {msg.tabsSemicolonsOrCommasUnitsIn}
      </p>
      <Input.TextArea
        aria-label={words.title}
        rows={9}
        value={text}
        onChange={(e) => setText(e.target.value)}
        className={styles['table']!}
      />
      <input
        ref={chooser}
        type="file"
        hidden
        accept={TABLE_FILES}
        data-testid={`${kind}-file`}
        onChange={(e) => {
          const [file] = e.target.files ?? [];
          e.target.value = '';
          setWrong(null);
          if (file) void tableTextOf(file).then(setText, (error: Error) => setWrong(error.message));
        }}
      />
      {text !== '' && (
        <div aria-live="polite">
          {read.cars && read.cars.length > 1 && (
            <OwnCar
              cars={read.cars}
              car={car}
              onCar={(chosen) => {
                setCar(chosen);
                rememberCar(jobId, chosen);
              }}
            />
          )}
          <HowRead read={read} />
        </div>
      )}
      {wrong && (
        <p className={styles['wrong']} role="alert">
          {wrong}
        </p>
      )}
    </Dialog>
  );
}

type Taking<K extends keyof typeof KINDS> = Omit<Parameters<typeof TableIn<K>>[0], 'kind'>;

/** Passes of the day from a table. */
export const PassesIn = (props: Taking<'passes'>) => <TableIn kind="passes" {...props} />;
/** The day's air from a table. */
export const WeatherIn = (props: Taking<'weather'>) => <TableIn kind="weather" {...props} />;
