'use client';

import { Button, Input } from 'antd';
import { useEffect, useMemo, useState } from 'react';
import { ledgerScore } from '@/core/compare/ledger';
import type { SideComparison } from '@/core/compare/sides';
import type { StoredPrediction } from '@/core/documents/prediction';
import { ANSWER_pct } from '@/core/documents/within';
import { formatNumber, formatSigned } from '@/core/units/quantity';
import { useJob, useRuns } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop-page';
import { FieldRow } from '@/ui/field/field-row';
import { FieldGroup } from '@/ui/field/group';
import { send } from '@/ui/post';
import styles from '../test.module.css';
import planStyles from './plan.module.css';
import { msg } from './messages';

const MODEL = 'the model';

/** The guesses about this job's runs, and what can be done with them. */
function useGuesses(): {
  readonly guesses: readonly StoredPrediction[];
  readonly wrong: string | null;
  readonly add: (guess: { source: string; predicted: number; low: number; high: number; title: string }) => Promise<boolean>;
  readonly score: (measured: number) => Promise<void>;
} {
  const id = useJob((s) => s.id);
  const [guesses, setGuesses] = useState<readonly StoredPrediction[]>([]);
  const [wrong, setWrong] = useState<string | null>(null);
  useEffect(() => {
    let current = true;
    send<StoredPrediction[]>('GET', `/api/jobs/${id}/guesses`)
      .then((list) => current && setGuesses(list))
      .catch((e: Error) => current && setWrong(e.message));
    return () => {
      current = false;
    };
  }, [id]);
  return useMemo(
    () => ({
      guesses,
      wrong,
      add: async (guess) => {
        try {
          const made = await send<StoredPrediction>('POST', '/api/predictions', { subject: 'dyno', subjectId: id, ...guess });
          setGuesses((list) => [made, ...list]);
          setWrong(null);
          return true;
        } catch (error) {
          setWrong((error as Error).message);
          return false;
        }
      },
      score: async (measured) => {
        try {
          setGuesses(await send<StoredPrediction[]>('PUT', `/api/jobs/${id}/guesses`, { measured }));
          setWrong(null);
        } catch (error) {
          setWrong((error as Error).message);
        }
      },
    }),
    [guesses, wrong, id],
  );
}

function Entry({ onAdd, disabled }: { onAdd: (source: string, predicted: number, half: number) => Promise<boolean>; disabled: boolean }) {
  const [who, setWho] = useState('');
  const [guess, setGuess] = useState<number | null>(null);
  const [half, setHalf] = useState<number>(1);
  return (
    <FieldGroup>
      {(wrong) => (
        <div className={planStyles['guess']}>
          <Input
            aria-label={msg.whoGuesses}
            placeholder={msg.workingAs}
            value={who}
            maxLength={60}
            onChange={(e) => setWho(e.target.value)}
          />
          <FieldRow
            label={msg.expects}
            measure="ratio"
            value={guess}
            within={ANSWER_pct}
            placeholder="2.0"
            onChange={setGuess}
            onClear={() => setGuess(null)}
          />
          <FieldRow label={msg.giveOrTake} measure="ratio" value={half} within={{ least: 0, most: 100 }} onChange={setHalf} />
          <Button
            disabled={disabled || wrong || who.trim() === '' || guess === null}
            onClick={() =>
              void onAdd(who.trim(), guess!, half).then((ok) => {
                if (!ok) return;
                setWho('');
                setGuess(null);
              })
            }
          >
            {msg.writeItDown}
          </Button>
        </div>
      )}
    </FieldGroup>
  );
}

/** Who expects what, written down before the new part is run and never changed after; scored by what was measured. */
export function Guesses({
  predicted,
  range,
  name,
  reply,
}: {
  predicted: number | null;
  range: { readonly low: number; readonly high: number } | null;
  name: string;
  reply: SideComparison | null;
}) {
  const { guesses, wrong, add, score } = useGuesses();
  const title = `${name}, mean over the deciding stretch, %`;
  const measured = reply ? reply.deciding.mean_pct : null;
  const open = guesses.filter((g) => g.measured === null);
  const scored = ledgerScore(guesses.flatMap((g) => (g.measured === null ? [] : [{ ...g, measured: g.measured }])));
  const { runs } = useRuns();
  const begun = runs.some((r) => r.doc.side?.kind === 'unit');
  const modelled = guesses.some((g) => g.source === MODEL);
  return (
    <div>
      <Heading more={<span className="quiet">{begun ? 'the new part has been run' : 'before the first run'}</span>}>
        {msg.whoExpectsWhat}
      </Heading>
      {guesses.length > 0 && (
        <table className="plain">
          <thead>
            <tr>
              <th>{msg.who}</th>
              <th className="num">{msg.expects2}</th>
              <th className="num">{msg.range}</th>
              <th className="num">{msg.measured}</th>
            </tr>
          </thead>
          <tbody>
            {guesses.map((g) => (
              <tr key={g.id}>
                <td>{g.source}</td>
                <td className="num">{formatSigned(g.predicted, 1, '%')}</td>
                <td className="num">
                  {formatSigned(g.low, 1)} {msg.to} {formatSigned(g.high, 1)}
                </td>
                <td className="num">
                  {g.measured === null
                    ? 'waits'
                    : `${formatSigned(g.measured, 1, '%')}, ${g.measured >= g.low && g.measured <= g.high ? 'inside' : 'outside'}`}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {!begun && (
        <>
          <Entry disabled={false} onAdd={(source, p, half) => add({ source, title, predicted: p, low: p - half, high: p + half })} />
          {predicted !== null && !modelled && (
            <Button
              size="small"
              disabled={range === null}
              onClick={() =>
                void add({
                  source: MODEL,
                  title,
                  predicted,
                  low: Math.min(predicted, range!.low),
                  high: Math.max(predicted, range!.high),
                })
              }
            >
              {range === null ? 'The model is still drawing its range…' : `Write down the model’s ${formatSigned(predicted, 1, '%')}`}
            </Button>
          )}
        </>
      )}
      {measured !== null && open.length > 0 && (
        <Button onClick={() => void score(measured)}>
          {msg.scoreThemByTheMeasured} {formatSigned(measured, 1, '%')}
        </Button>
      )}
      {scored.length > 0 && (
        <p className={styles['note']}>
          {scored
            .map(
              (s) => `${s.source}: off by ${formatNumber(s.meanAbsoluteError, 1)} %, ${s.hitRate === 1 ? 'inside' : 'outside'} the range`,
            )
            .join('; ')}
          .
        </p>
      )}
      {guesses.length === 0 && begun && <p className="quiet">{msg.nobodyWroteAGuessDownBefore}</p>}
      {wrong && (
        <p className={styles['wrong']} role="alert">
          {wrong}
        </p>
      )}
    </div>
  );
}
