'use client';

import { App, Button, Input, Segmented } from 'antd';
import { useState } from 'react';
import type { StoredPrediction } from '@/core/documents/prediction';
import type { BenchRecord } from '@/core/documents/unit';
import { BENCH_DEPRESSION_Pa, BENCH_FLOW_m3ps } from '@/core/documents/within';
import { isFailure } from '@/core/failure';
import { benchCeiling, benchFlow, benchLossCoefficient, ENTRIES } from '@/core/flow/bench';
import { formatNumber, formatQuantity, formatSigned } from '@/core/units/quantity';
import { INCH_OF_WATER_Pa } from '@/core/units/units';
import { Heading, Pair } from '@/ui/answer/stop-page';
import { ChoiceField } from '@/ui/field/choice-field';
import { ControlRow, FieldRow } from '@/ui/field/field-row';
import { FieldGroup } from '@/ui/field/group';
import { stampNow } from '@/ui/clock';
import { send } from '@/ui/post';
import { usePrefs } from '@/ui/theme/prefs';
import { subjectAreas, subjectId, subjectName, type Subject } from './entries';
import { LiveBench } from './live-bench';
import styles from './bench.module.css';
import { msg } from './messages';

export const DEPRESSIONS_Pa = [28, 25, 20.4, 10].map((inches) => inches * INCH_OF_WATER_Pa);
/** The model's own guess is given this much room, and a person's unless they say otherwise. */
const MODEL_ROOM = 0.05;
const GUESS_ROOM = 0.05;

/** A number that makes this piece and this day the same for everyone who looks. */
const seedOf = (text: string): number => [...text].reduce((h, c) => (Math.imul(h, 31) + c.charCodeAt(0)) >>> 0, 17);

interface Locked {
  readonly mine: StoredPrediction | null;
  readonly model: StoredPrediction | null;
}

function useGuess(subject: Subject, depression_Pa: number, entryK: number, onLedger: (p: readonly StoredPrediction[]) => void) {
  const { message } = App.useApp();
  const [locked, setLocked] = useState<Locked | null>(null);
  const areas = subjectAreas(subject);
  const modelGuess = areas ? benchFlow(areas.K, entryK, areas.netArea_m2, areas.grossArea_m2, depression_Pa) : null;
  const lock = async (who: string, guess: number, room: number, title: string): Promise<void> => {
    const made: StoredPrediction[] = [];
    const write = async (source: string, predicted: number, within: number): Promise<StoredPrediction> => {
      const p = await send<StoredPrediction>('POST', '/api/predictions', {
        subject: 'bench',
        subjectId: subjectId(subject),
        title,
        source,
        predicted,
        low: predicted * (1 - within),
        high: predicted * (1 + within),
      });
      made.push(p);
      return p;
    };
    try {
      const mine = await write(who, guess, room);
      const model = modelGuess && !isFailure(modelGuess) ? await write('the model', modelGuess.flow_m3ps, MODEL_ROOM) : null;
      setLocked({ mine, model });
      onLedger(made);
    } catch (error) {
      message.error(error instanceof Error ? error.message : 'The guess could not be written down.');
    }
  };
  return { locked, setLocked, lock };
}

/** What a reading means before it is kept: its share of the ideal nozzle, its loss, and the doubt there is about it. */
function Verdict({ subject, flow, depression_Pa, entryK }: { subject: Subject; flow: number; depression_Pa: number; entryK: number }) {
  const { pack } = usePrefs();
  const areas = subjectAreas(subject);
  if (!areas) return null;
  const ceiling = benchCeiling(flow, depression_Pa, areas.bore_m);
  const K = benchLossCoefficient({
    flow_m3ps: flow,
    depression_Pa,
    entryK,
    netArea_m2: areas.netArea_m2,
    grossArea_m2: areas.grossArea_m2,
  });
  if ('error' in ceiling) {
    return (
      <p role="alert" className={styles['wrong']}>
        {ceiling.error === 'bench_above_ceiling'
          ? `This cannot be: ${formatNumber(100 * (ceiling.ratio ?? 0), 0)} % of what the ideal nozzle of ${formatQuantity(areas.bore_m, 'bore', pack)} passes. Either the bore is at least ${formatQuantity(ceiling.boreNeeded_m ?? 0, 'bore', pack)}, or the bench reads high. It can still be ranked on its own bench.`
          : 'A flow and a depression above zero are needed.'}
      </p>
    );
  }
  return (
    <>
      <Pair name="of its ideal nozzle">
        <strong>{formatNumber(100 * ceiling.ratio, 1)} %</strong>
      </Pair>
      <Pair name="loss coefficient K">
        <span>{isFailure(K) ? '—' : `${formatNumber(K.K, 3)}${K.aboveBore ? ', above what the bore allows' : ''}`}</span>
      </Pair>
      {ceiling.rating === 'doubtful' && <p className={styles['doubt']}>{msg.doubtfulHardlyARealPartComes}</p>}
      {entryK >= 0.5 && ceiling.ratio > 0.82 && <p className={styles['doubt']}>{msg.highForABareEdgeWhere}</p>}
      {entryK < 0.5 && ceiling.ratio < 0.8 && <p className={styles['doubt']}>{msg.lowForARadiusPlateWhere}</p>}
    </>
  );
}

interface FirstAGuessProps {
  readonly who: string;
  /** A field shows what was not taken. */
  readonly unread: boolean;
  readonly onWho: (who: string) => void;
  readonly onLock: (who: string, guess: number, room: number) => void;
  readonly onWithout: () => void;
}

/** A guess, written down before the bench is looked at. */
function FirstAGuess({ who, unread, onWho, onLock, onWithout }: FirstAGuessProps) {
  const [guess, setGuess] = useState<number | null>(null);
  const [room, setRoom] = useState(GUESS_ROOM);
  return (
    <>
      <Heading>{msg.firstAGuess}</Heading>
      <ControlRow label={msg.whoGuesses}>
        <Input aria-label={msg.whoGuesses} value={who} maxLength={60} onChange={(e) => onWho(e.target.value)} />
      </ControlRow>
      <FieldRow
        label={msg.itWillRead}
        measure="benchFlow"
        value={guess}
        within={BENCH_FLOW_m3ps}
        onChange={setGuess}
        onClear={() => setGuess(null)}
        placeholder={msg.guess}
      />
      <FieldRow label={msg.giveOrTake} measure="share" value={room} within={{ least: 0, most: 0.9 }} onChange={setRoom} />
      <div className={styles['tools']}>
        <Button
          type="primary"
          disabled={unread || guess === null || who.trim() === ''}
          onClick={() => onLock(who.trim(), guess ?? 0, room)}
        >
          {msg.writeItDown}
        </Button>
        <Button type="text" onClick={onWithout}>
          {msg.withoutAGuess}
        </Button>
      </div>
      <p className="quiet" style={{ fontSize: 13 }}>
        {msg.onceWrittenItCannotBeChanged}
      </p>
    </>
  );
}

type ReadBy = 'typed' | 'stand-in' | 'claim';

/** What was read, and the depression where it was read at another than was set. */
interface Read {
  readonly flow: number | null;
  readonly at: number | null;
}

interface ReadingProps {
  readonly subject: Subject;
  readonly locked: Locked | null;
  readonly depression_Pa: number;
  readonly entryK: number;
  readonly bench: string;
  readonly by: ReadBy;
  /** A field shows what was not taken. */
  readonly unread: boolean;
  readonly onBy: (by: ReadBy) => void;
  readonly onKeep: (read: Read) => Promise<void>;
}

/** The reading, beside what was guessed, with what it means. */
function Reading({ subject, locked, depression_Pa, entryK, bench, by, unread, onBy, onKeep }: ReadingProps) {
  const { pack } = usePrefs();
  const [flow, setFlow] = useState<number | null>(null);
  const [at, setAt] = useState<number | null>(null);
  const [busy, setBusy] = useState(false);
  // Typed in, it was read at the depression that is set, and on no practice bench.
  const type = (typed: number | null): void => {
    setFlow(typed);
    setAt(null);
    if (by === 'stand-in') onBy('typed');
  };
  const chooseBy = (next: ReadBy): void => {
    // What the practice bench made up is nobody's reading or claim.
    if (by === 'stand-in') {
      setFlow(null);
      setAt(null);
    }
    onBy(next);
  };
  const keep = async (): Promise<void> => {
    setBusy(true);
    await onKeep({ flow, at });
    setBusy(false);
  };
  return (
    <>
      <Heading>{msg.theReading}</Heading>
      {locked?.mine && (
        <p className="quiet">
          {locked.mine.source} {msg.said} {formatQuantity(locked.mine.predicted, 'benchFlow', pack)}
          {locked.model ? `, the model ${formatQuantity(locked.model.predicted, 'benchFlow', pack)}` : ''}.
        </p>
      )}
      <Segmented
        size="small"
        aria-label={msg.readBy}
        value={by}
        onChange={chooseBy}
        options={[
          { value: 'typed', label: msg.typedIn },
          ...(subject.kind === 'unit' ? [{ value: 'stand-in' as const, label: msg.practiceBenchSimulated }] : []),
          { value: 'claim', label: msg.aMakersClaim },
        ]}
      />
      {by === 'claim' && <p className="quiet">{msg.aClaimIsAssumedUntilSomebody}</p>}
      {by === 'stand-in' && subject.kind === 'unit' && (
        <LiveBench
          throttle={subject.unit.doc.throttle}
          depression_Pa={depression_Pa}
          entryK={entryK}
          seed={seedOf(subject.unit.id + bench)}
          disabled={busy}
          onTake={(f, d) => {
            setFlow(f);
            setAt(d);
          }}
        />
      )}
      <FieldRow
        label={msg.itRead}
        measure="benchFlow"
        value={flow}
        within={BENCH_FLOW_m3ps}
        onChange={type}
        onClear={() => type(null)}
        placeholder={msg.flow}
      />
      {flow !== null && (
        <>
          <Verdict subject={subject} flow={flow} depression_Pa={at ?? depression_Pa} entryK={entryK} />
          {locked?.mine && (
            <Pair name={`${locked.mine.source} was off by`}>
              <span>{formatSigned(100 * (locked.mine.predicted / flow - 1), 1, '%')}</span>
            </Pair>
          )}
        </>
      )}
      <div className={styles['tools']}>
        <Button type="primary" loading={busy} disabled={unread || flow === null} onClick={() => void keep()}>
          {msg.keepThisRecord}
        </Button>
      </div>
    </>
  );
}

/** A new flow record: what is on the bench, a guess first, then the reading. */
export function NewRecord({
  subject,
  benches,
  people,
  onSave,
  onLedger,
}: {
  subject: Subject;
  benches: readonly string[];
  people: readonly string[];
  onSave: (record: BenchRecord) => Promise<void>;
  onLedger: (changed: readonly StoredPrediction[]) => void;
}) {
  const { message } = App.useApp();
  const [depression, setDepression] = useState(DEPRESSIONS_Pa[0]!);
  const [entryK, setEntryK] = useState<number>(0.04);
  const [bench, setBench] = useState(benches[0] ?? 'our bench');
  const [who, setWho] = useState(people[0] ?? '');
  const [by, setBy] = useState<ReadBy>('typed');
  const [without, setWithout] = useState(false);
  const { locked, setLocked, lock } = useGuess(subject, depression, entryK, onLedger);
  const title = `${subjectName(subject)} at ${formatQuantity(depression, 'depression', 'us')}, ${ENTRIES.find((e) => e.value === entryK)?.label ?? `entry K ${entryK}`}`;
  const open = locked !== null || without;
  const save = async ({ flow, at }: Read): Promise<void> => {
    if (flow === null) return;
    try {
      await onSave({
        flow_m3ps: flow,
        depression_Pa: at ?? depression,
        entryK,
        bench: bench.trim() || 'our bench',
        kind: by === 'claim' ? 'claim' : 'reading',
        bores: null,
        takenOn: stampNow().date,
        note: by === 'stand-in' ? 'from the practice bench (simulated)' : '',
      });
    } catch (error) {
      return void message.error(error instanceof Error ? error.message : 'The record could not be saved. The figures are still here.');
    }
    // From here on it is kept: what fails now must not have it kept twice.
    try {
      const guesses = [locked?.mine, locked?.model].filter((p): p is StoredPrediction => p != null);
      const done: StoredPrediction[] = [];
      for (const p of guesses) done.push(await send<StoredPrediction>('PUT', `/api/predictions/${p.id}`, { measured: flow }));
      onLedger(done);
    } catch (error) {
      message.error(`The record is kept, but its guess could not be scored: ${(error as Error).message}`);
    }
    setLocked(null);
    setWithout(false);
  };
  return (
    <FieldGroup>
      {(unread) => (
        <>
          <Heading>
            {msg.newReading} {subjectName(subject)}
          </Heading>
          <FieldRow label={msg.depression} measure="depression" value={depression} within={BENCH_DEPRESSION_Pa} onChange={setDepression} />
          <ChoiceField label={msg.entry} value={entryK} options={[...ENTRIES]} onChange={setEntryK} disabled={locked !== null} />
          <ControlRow label={msg.bench}>
            <Input aria-label={msg.bench} value={bench} maxLength={80} onChange={(e) => setBench(e.target.value)} />
          </ControlRow>
          {!open && (
            <FirstAGuess
              who={who}
              unread={unread}
              onWho={setWho}
              onLock={(who, guess, room) => void lock(who, guess, room, title)}
              onWithout={() => setWithout(true)}
            />
          )}
          {open && (
            <Reading
              subject={subject}
              locked={locked}
              depression_Pa={depression}
              entryK={entryK}
              bench={bench}
              by={by}
              unread={unread}
              onBy={setBy}
              onKeep={save}
            />
          )}
        </>
      )}
    </FieldGroup>
  );
}
