'use client';

import { Button, Select } from 'antd';
import { useState } from 'react';
import { PRACTICE_WORDS } from '@/core/documents/kinds';
import type { PracticeDecision, PracticeRig } from '@/core/documents/practice';
import { ANSWER_pct } from '@/core/documents/within';
import type { PracticeScore } from '@/core/stand-ins/practice';
import { formatNumber, formatSigned } from '@/core/units/quantity';
import { Heading, Pair } from '@/ui/answer/stop-page';
import { FieldRow } from '@/ui/field/field-row';
import { FieldGroup } from '@/ui/field/group';
import { usePrefs } from '@/ui/theme/prefs';
import styles from '../test.module.css';
import { msg } from './messages';
import { WORDS } from './words';

/** How a session went against its hidden truth, and what it cost. */
export function Score({ score, decision, rig }: { score: PracticeScore; decision: PracticeDecision; rig: PracticeRig }) {
  const { money } = usePrefs();
  const { lesson } = score;
  return (
    <>
      <Heading>{msg.howItWent}</Heading>
      <Pair name="truly">
        <span>
          {formatSigned(score.true_pct, 2, '%')}: {score.trueWord}
        </span>
      </Pair>
      <Pair name="you said">
        <span>
          {formatSigned(decision.estimate_pct, 2, '%')}: {WORDS[decision.word]}
        </span>
      </Pair>
      <Pair name="your runs could carry">
        <span>{WORDS[score.carried]}</span>
      </Pair>
      <Pair name="off by">
        <span>{formatSigned(score.error_pct, 2, '%')}</span>
      </Pair>
      <Pair name="it took">
        <span>
          {score.runs} {rig === 'dyno' ? 'runs' : 'passes'} {msg.inWord} {score.stays} {msg.stays} {formatNumber(score.minutes, 0)}{' '}
          {msg.min}
          {score.cost > 0 ? `, ${money(score.cost)}` : ''}
        </span>
      </Pair>
      <p className={styles['note']}>
        {lesson
          ? `The cheapest day that would as a rule have told: ${lesson.order === 'alternate' ? `${lesson.runsPerStay} alternating pairs` : `${lesson.order.replaceAll('-', ', ').replaceAll('A', 'stock').replaceAll('B', 'new')}, ${lesson.runsPerStay} a stay`}${lesson.visits > 1 ? `, on ${lesson.visits} days` : ''}: ${formatNumber(lesson.hours, 1)} h, the right word in ${formatNumber(100 * lesson.pRight, 0)} of 100.`
          : 'No day that anybody drives would as a rule have told this: then “can’t tell” is the right thing to say, and stopping early the cheapest.'}
      </p>
    </>
  );
}

/** The word and the figure a person settles for. */
export function Decide({ shown, onDecide }: { shown: number | null; onDecide: (d: PracticeDecision) => void }) {
  const [word, setWord] = useState<PracticeDecision['word'] | null>(null);
  const [estimate, setEstimate] = useState<number | null>(null);
  const said = estimate ?? shown ?? 0;
  return (
    <>
      <Heading>{msg.decide}</Heading>
      <Select
        aria-label={msg.yourDecision}
        placeholder={msg.whatDidItDo}
        style={{ width: '100%' }}
        value={word}
        options={PRACTICE_WORDS.map((value) => ({ value, label: WORDS[value] }))}
        onChange={setWord}
      />
      <FieldGroup>
        {(wrong) => (
          <>
            <FieldRow
              label={msg.howMuchPower}
              measure="ratio"
              value={estimate ?? shown}
              within={ANSWER_pct}
              placeholder="0.0"
              onChange={setEstimate}
            />
            <Button type="primary" block disabled={wrong || word === null} onClick={() => onDecide({ word: word!, estimate_pct: said })}>
              {msg.thatIsMyAnswer}
            </Button>
          </>
        )}
      </FieldGroup>
    </>
  );
}
