'use client';

import { App, Button, Input, Select } from 'antd';
import { useState } from 'react';
import { NO_VISIT } from '@/core/documents/blank';
import { issuesOf } from '@/core/documents/issue';
import { issueLine } from '@/core/documents/issue-text';
import type { StoredVisit, StripVisitDoc, WeatherReadingDoc } from '@/core/documents/strip';
import { airState } from '@/core/air/state';
import { CAR_MASS_kg, ENTRY_FEE, PASS_FEE, WEATHER } from '@/core/documents/within';
import { isFailure } from '@/core/failure';
import { clockOf } from '@/core/numbers/clock';
import type { StationReading } from '@/core/stand-ins/weather-station';
import { formatQuantity } from '@/core/units/quantity';
import { HistoryButton } from '@/features/history/button';
import { useJob } from '@/features/job/provider';
import { checksSoon } from '@/ui/checks';
import { Heading } from '@/ui/answer/stop-page';
import { stampNow } from '@/ui/clock';
import { FieldRow } from '@/ui/field/field-row';
import { FieldGroup } from '@/ui/field/group';
import { densityAltitudeWorking } from '@/core/working/strip-working';
import { usePrefs } from '@/ui/theme/prefs';
import { useReported } from '@/ui/reported';
import { useUndo } from '@/ui/undo';
import { Num } from '@/ui/working/provider';
import { useStream } from '../use-stream';
import type { Strip } from './use-strip';
import styles from './strip.module.css';
import { msg } from './messages';
import { later } from '@/ui/later';

/** Comes when the day's own figures are shown. */
const DayField = later(() => import('@/ui/field/when').then((m) => m.DayField));
const WeatherIn = later(() => import('./table-in').then((m) => m.WeatherIn));

const SEEDS = 1000;

/** The day's air: readings typed, from a table, or from the practice station. */
function Air({ visit, add: put }: { visit: StoredVisit; add: (readings: readonly WeatherReadingDoc[]) => Promise<void> }) {
  const { pack } = usePrefs();
  const reported = useReported();
  const jobId = useJob((s) => s.id);
  const start = useJob((s) => s.doc.car.weather);
  const [at, setAt] = useState('');
  const [p_Pa, setP] = useState(start.p_Pa);
  const [T_K, setT] = useState(start.T_K);
  const [rh, setRh] = useState(start.rh);
  const [table, setTable] = useState(false);
  const stream = useStream<StationReading>();
  const { weather } = visit.doc;
  const dampless = weather.filter((r) => r.rhGuessed).length;
  const station = (): void => {
    const query = new URLSearchParams({ job: jobId, seed: String(Number(visit.doc.takenOn.replaceAll('-', '')) % SEEDS), every: '10' });
    stream.start(
      `/api/stand-ins/weather?${query}`,
      (readings) =>
        void reported(() =>
          put(readings.map(({ at_min, ...r }) => ({ ...r, at: clockOf(at_min), from: 'stand-in' as const, rhGuessed: false }))),
        ),
    );
  };
  return (
    <>
      <Heading more={<span className="quiet">{weather.length === 0 ? 'none yet' : `${weather.length} readings`}</span>}>
        {msg.theDaysAir}
      </Heading>
      {weather.length > 0 && (
        <table className={`plain ${styles['air']}`}>
          <tbody>
            {sparse(weather).map((r) => {
              const air = airState(r);
              return (
                <tr key={r.at}>
                  <td>{r.at}</td>
                  <td className="num">{formatQuantity(r.T_K, 'temperature', pack)}</td>
                  <td className="num">{formatQuantity(r.p_Pa, 'barometer', pack)}</td>
                  <td className="num">
                    {isFailure(air) ? (
                      '—'
                    ) : (
                      <Num small label={`density altitude at ${r.at}`} working={() => densityAltitudeWorking(r)}>
                        {formatQuantity(air.densityAltitude_m, 'altitude', pack)}
                      </Num>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
      {dampless > 0 && (
        <p className="quiet">
          {dampless === weather.length ? msg.humidityNotKnown : `${dampless} of ${weather.length}: ${msg.humidityNotKnown}`}
        </p>
      )}
      {weather.length > SHOWN && <p className="quiet">{msg.eightOfTheDaysReadingsThe}</p>}
      <div className={styles['actions']}>
        <Button size="small" onClick={() => setTable(true)}>
          {msg.fromATable}
        </Button>
        <Button size="small" onClick={stream.state === 'running' ? stream.stop : station}>
          {stream.state === 'running' ? `Stop (${stream.readings.length} readings)` : 'Practice station'}
        </Button>
      </div>
      {stream.state === 'away' && <p className={styles['wrong']}>{msg.theStationBrokeOffTheServer}</p>}
      <details>
        <summary className="quiet">{msg.typeAReading}</summary>
        <label className={styles['stack']}>
          {msg.timeOfDay}
          <Input type="time" aria-label={msg.timeOfTheReading} value={at} onChange={(e) => setAt(e.target.value)} />
        </label>
        <FieldGroup>
          {(wrong) => (
            <>
              <FieldRow label={msg.barometerStation} measure="barometer" value={p_Pa} within={WEATHER.p_Pa} onChange={setP} />
              <FieldRow label={msg.air} measure="temperature" value={T_K} within={WEATHER.T_K} onChange={setT} />
              <FieldRow label={msg.humidity} measure="share" value={rh} within={WEATHER.rh} onChange={setRh} />
              <Button
                size="small"
                disabled={wrong || at === ''}
                onClick={() => void reported(() => put([{ at, p_Pa, T_K, rh, from: 'typed', rhGuessed: false }]).then(() => setAt('')))}
              >
                {msg.addTheReading}
              </Button>
            </>
          )}
        </FieldGroup>
      </details>
      {table && <WeatherIn sideOf={() => null} onTake={(found) => put(found)} onClose={() => setTable(false)} />}
    </>
  );
}

const SHOWN = 8;
/** A day of readings every few minutes is told by eight of them. */
function sparse(list: readonly WeatherReadingDoc[]): readonly WeatherReadingDoc[] {
  if (list.length <= SHOWN) return list;
  return Array.from({ length: SHOWN }, (_, i) => list[Math.round((i * (list.length - 1)) / (SHOWN - 1))]!);
}

/** The date of a day, told; it is changed by a calendar that comes when it is asked for. */
function DateOfDay({ day, onChange }: { day: string; onChange: (day: string) => void }) {
  const { dates } = usePrefs();
  const [changing, setChanging] = useState(false);
  if (!changing)
    return (
      <p className="quiet">
        {dates.plainDay(day)}{' '}
        <Button size="small" type="text" aria-label={msg.changeTheDateOfTheDay} onClick={() => setChanging(true)}>
          {msg.change}
        </Button>
      </p>
    );
  return (
    <label className={styles['stack']}>
      {msg.dateOfTheDay}
      <DayField label={msg.dateOfTheDay} value={day} onChange={(next) => next && onChange(next)} />
    </label>
  );
}

/** Which day is looked at, and a new one, which is like the last unless it is said otherwise. */
function WhichDay({ strip, visit, onPick }: { strip: Strip; visit: StoredVisit | null; onPick: (id: string) => void }) {
  const { dates } = usePrefs();
  const undo = useUndo();
  const reported = useReported();
  const [track, setTrack] = useState<string | null>(null);
  const visits = strip.book?.visits ?? [];
  const nameOf = ({ doc }: StoredVisit): string => `${dates.plainDay(doc.takenOn)}, ${doc.track}`;
  const begin = (): void => {
    const last = visits.at(-1)?.doc;
    const doc: StripVisitDoc = {
      ...NO_VISIT,
      track: (track ?? '').trim() || last?.track || 'The strip',
      takenOn: stampNow().date,
      ...(last && {
        course: last.course,
        marks: last.marks,
        speeds: last.speeds,
        mass_kg: last.mass_kg,
        entryFee: last.entryFee,
        perPassFee: last.perPassFee,
      }),
    };
    void reported(() =>
      strip.addVisit(doc).then((v) => {
        onPick(v.id);
        setTrack(null);
      }),
    );
  };
  const remove = async (gone: StoredVisit): Promise<void> => {
    await strip.removeVisit(gone);
    undo(`${nameOf(gone)}, and its passes are in the trash.`, () => reported(() => strip.bringBack(gone)));
  };
  return (
    <>
      {visits.length > 0 && (
        <Select
          aria-label={msg.dayAtTheStrip}
          style={{ width: '100%' }}
          value={visit?.id ?? null}
          options={visits.map((v) => ({ value: v.id, label: nameOf(v) }))}
          onChange={onPick}
        />
      )}
      {track === null ? (
        <div className={styles['actions']}>
          <Button size="small" type={visits.length === 0 ? 'primary' : 'default'} onClick={() => setTrack('')}>
            {msg.newDay}
          </Button>
          {visit && <HistoryButton kind="strip_visit" id={visit.id} title={nameOf(visit)} />}
          {visit && (
            <Button size="small" type="text" onClick={() => void reported(() => remove(visit))}>
              {msg.trash}
            </Button>
          )}
        </div>
      ) : (
        <div className={styles['actions']}>
          <Input
            autoFocus
            aria-label={msg.nameOfTheTrack}
            placeholder={msg.whichTrack}
            maxLength={80}
            value={track}
            onChange={(e) => setTrack(e.target.value)}
            onPressEnter={begin}
          />
          <Button type="primary" onClick={begin}>
            {msg.beginTheDay}
          </Button>
          <Button type="text" onClick={() => setTrack(null)}>
            {msg.notNow}
          </Button>
        </div>
      )}
    </>
  );
}

/** How a day is timed: its course, its marks and its speeds. */
function HowTimed({ doc, set }: { doc: StripVisitDoc; set: (more: Partial<StripVisitDoc>) => void }) {
  return (
    <div className={styles['actions']}>
      <Select
        aria-label={msg.distance}
        size="small"
        value={doc.course}
        options={[
          { value: 'quarter', label: msg.n14Mile402M },
          { value: 'eighth', label: msg.n18Mile201M },
        ]}
        onChange={(course) => set({ course })}
      />
      <Select
        aria-label={msg.namesOfTheMarks}
        size="small"
        value={doc.marks}
        options={[
          { value: 'feet', label: msg.marksInFeet },
          { value: 'metres', label: msg.marksInMetres },
        ]}
        onChange={(marks) => set({ marks })}
      />
      <Select
        aria-label={msg.speedsOnTheSlip}
        size="small"
        value={doc.speeds}
        options={[
          { value: 'mph', label: msg.mph },
          { value: 'kmh', label: msg.kmH },
        ]}
        onChange={(speeds) => set({ speeds })}
      />
    </div>
  );
}

/** The day at the strip: which one, where, how it is timed, what it cost, and its air. */
export function VisitPanel({ strip, visit, onPick }: { strip: Strip; visit: StoredVisit | null; onPick: (id: string) => void }) {
  const { message } = App.useApp();
  const { pack } = usePrefs();
  const reported = useReported();
  const change = async (of: StoredVisit, more: Partial<StripVisitDoc>): Promise<void> => {
    const doc = { ...of.doc, ...more };
    const checks = await checksSoon();
    const wrong = checks?.checkedChange(checks.stripVisitDoc, of.doc, doc).error;
    if (wrong) void message.error(issueLine(issuesOf(wrong)[0]!, pack));
    else await reported(() => strip.saveVisit(of, doc));
  };
  const set = (more: Partial<StripVisitDoc>): void => void (visit && change(visit, more));
  return (
    <>
      <Heading>{msg.dayAtTheStrip}</Heading>
      <WhichDay strip={strip} visit={visit} onPick={onPick} />
      {visit && (
        <>
          <HowTimed doc={visit.doc} set={set} />
          <DateOfDay key={visit.id} day={visit.doc.takenOn} onChange={(takenOn) => set({ takenOn })} />
          <FieldRow
            label={msg.carWithDriver}
            measure="mass"
            value={visit.doc.mass_kg}
            placeholder={msg.notWeighed}
            within={CAR_MASS_kg}
            onChange={(mass_kg) => set({ mass_kg })}
            onClear={() => set({ mass_kg: null })}
          />
          <FieldRow
            label={msg.entry}
            measure="money"
            value={visit.doc.entryFee}
            within={ENTRY_FEE}
            onChange={(entryFee) => set({ entryFee })}
          />
          <FieldRow
            label={msg.aPass}
            measure="money"
            value={visit.doc.perPassFee}
            within={PASS_FEE}
            onChange={(perPassFee) => set({ perPassFee })}
          />
          <Air key={visit.id} visit={visit} add={(readings) => strip.addWeather(visit, readings)} />
        </>
      )}
    </>
  );
}
