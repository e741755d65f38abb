'use client';

import { Select } from 'antd';
import type { ChannelMap, Quantity, RunDoc, StoredRun } from '@/core/documents/run';
import { dimensionOf, isSettled } from '@/core/read/guess';
import { isVacuum, ownUnits } from '@/core/units/units';
import { formatNumber } from '@/core/units/quantity';
import styles from '../test.module.css';
import filesStyles from './files.module.css';
import { msg } from './messages';

/** What a comparison cannot do without: asked first, the rest only counted. */
const NEEDED: readonly Quantity[] = ['rpm', 'power', 'torque'];

const WORDS: Partial<Record<Quantity, string>> = { rpm: 'engine speed' };

export interface Question {
  readonly channel: ChannelMap;
  readonly name: string;
  /** Figures that most of the column lies between, as they stand in the file. */
  readonly span: string;
}

/** Columns whose unit nobody knows yet, those first that the comparison needs. */
function questionsOf(run: StoredRun): { units: readonly Question[]; rivals: readonly Question[]; others: number } {
  const question = (channel: ChannelMap): Question => {
    const { name = '', low, high } = run.columns[channel.column] ?? {};
    const span =
      low === undefined || high === undefined ? '' : `${formatNumber(low, low < 10 ? 2 : 0)} to ${formatNumber(high, high < 10 ? 2 : 0)}`;
    return { channel, name, span };
  };
  const { channels } = run.doc;
  const open = channels.filter((c) => !isSettled(c));
  const units = open.filter((c) => NEEDED.includes(c.quantity)).map(question);
  const settledPower = channels.some((c) => c.quantity === 'power');
  const rivals = settledPower ? [] : channels.filter((c) => c.quantity === 'further power' && run.columns[c.column]?.ask).map(question);
  // A column that stands beside one of its kind, or belongs to another run of the file, is no question.
  const unsaid = channels.filter(
    (c) => c.quantity === 'other' && run.columns[c.column]?.doubt === 'gauge or absolute' && !run.columns[c.column]?.remembered,
  );
  return { units, rivals: rivals.length > 1 ? rivals : [], others: open.length - units.length + unsaid.length };
}

/** Whether a run cannot be compared before a question about it is answered. */
export function asksFirst(run: StoredRun): boolean {
  const { units, rivals } = questionsOf(run);
  return units.some((q) => q.channel.quantity !== 'torque' || !run.doc.channels.some((c) => c.quantity === 'power')) || rivals.length > 0;
}

/** The run's record with one question answered. */
function withUnit(doc: RunDoc, channel: ChannelMap, unit: string): RunDoc {
  return { ...doc, channels: doc.channels.map((c) => (c.column === channel.column ? { ...c, unit } : c)) };
}

function withPower(doc: RunDoc, column: number): RunDoc {
  return { ...doc, channels: doc.channels.map((c) => (c.column === column ? { ...c, quantity: 'power' as const } : c)) };
}

/** What a file does not say and the comparison needs to know, asked beside the run; an answer holds for all files of this header. */
export function AskColumns({ run, onSave, onEdit }: { run: StoredRun; onSave: (doc: RunDoc) => void; onEdit: () => void }) {
  const { units, rivals, others } = questionsOf(run);
  if (units.length === 0 && rivals.length === 0 && others === 0) return null;
  return (
    <div className={filesStyles['ask']} role="group" aria-label={`Questions about ${run.doc.name}`}>
      {units.map(({ channel, name, span }) => (
        <div key={channel.column} className={filesStyles['askLine']}>
          <span>
            {msg.inWhichUnitIs}
            {name}”{channel.quantity !== name.toLowerCase() && `, its ${WORDS[channel.quantity] ?? channel.quantity}`}?{' '}
            {span && (
              <span className="quiet">
                {msg.itsFigures} {span}.
              </span>
            )}
          </span>
          <Select
            size="small"
            aria-label={`Unit of ${name} in ${run.doc.name}`}
            placeholder={msg.sayWhich}
            style={{ width: 104 }}
            popupMatchSelectWidth={160}
            value={null}
            options={ownUnits(dimensionOf(channel.quantity))
              .filter((u) => !isVacuum(u))
              .map((u) => ({
                value: u.id,
                label: u.label,
              }))}
            onChange={(unit: string | null) => unit !== null && onSave(withUnit(run.doc, channel, unit))}
          />
        </div>
      ))}
      {rivals.length > 0 && (
        <div className={filesStyles['askLine']}>
          <span>{msg.severalColumnsArePowerAndSay}</span>
          <Select
            size="small"
            aria-label={`Power of ${run.doc.name}`}
            placeholder={msg.sayWhich}
            style={{ width: 150 }}
            value={null}
            options={rivals.map((r) => ({ value: r.channel.column, label: `${r.name}: ${r.span}` }))}
            popupMatchSelectWidth={240}
            onChange={(column: number | null) => column !== null && onSave(withPower(run.doc, column))}
          />
        </div>
      )}
      {others > 0 && (
        <button type="button" className={styles['doubt']} onClick={onEdit}>
          {others} {msg.more} {others === 1 ? 'column is' : 'columns are'} {msg.notUsedUntilSomebodySaysWhat}{' '}
          {others === 1 ? 'it is' : 'they are'} {msg.inWord}
        </button>
      )}
    </div>
  );
}
