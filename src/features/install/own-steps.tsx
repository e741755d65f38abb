'use client';

import { Button, Input } from 'antd';
import { useEffect, useState } from 'react';
import type { OwnStep } from '@/core/documents/install';
import { STEP_STAGES } from '@/core/documents/kinds';
import { STAGES, type StepStage } from '@/core/install/steps';
import { useJob } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop-page';
import { ChoiceField } from '@/ui/field/choice-field';
import { send } from '@/ui/post';
import { uuid } from '@/ui/uuid';
import styles from './install.module.css';
import { msg } from './messages';

const OPTIONS = STEP_STAGES.map((value) => ({ value, label: STAGES.find((s) => s.stage === value)!.title }));
const freshId = (): string => `own-${uuid().slice(0, 8)}`;

/** Steps the shop adds to this sheet, and those it added on other cars of this kind. */
export function OwnSteps() {
  const id = useJob((s) => s.id);
  const own = useJob((s) => s.doc.install.own);
  const change = useJob((s) => s.change);
  const [text, setText] = useState('');
  const [stage, setStage] = useState<StepStage>('off');
  const [offered, setOffered] = useState<readonly OwnStep[]>([]);
  useEffect(() => {
    let here = true;
    send<OwnStep[]>('GET', `/api/jobs/${id}/offered-steps`)
      .then((list) => here && Array.isArray(list) && setOffered(list))
      .catch(() => {});
    return () => {
      here = false;
    };
  }, [id]);
  const add = (step: OwnStep): void => void change((doc) => ({ ...doc, install: { ...doc.install, own: [...doc.install.own, step] } }));
  const last = own.findLast((o) => o.stage === stage);
  const still = offered.filter((o) => !own.some((x) => x.text === o.text));
  return (
    <div className="no-print">
      <Heading>{msg.stepsOfOurOwn}</Heading>
      <Input.TextArea
        aria-label={msg.aStepOfOurOwn}
        rows={2}
        maxLength={400}
        placeholder={msg.theBracketOverThePlugComes}
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <ChoiceField<StepStage> label={msg.when} value={stage} options={OPTIONS} onChange={setStage} />
      <Button
        disabled={text.trim() === ''}
        onClick={() => {
          add({ id: freshId(), stage, after: last?.id ?? null, text: text.trim() });
          setText('');
        }}
      >
        {msg.putItOnTheSheet}
      </Button>
      {still.length > 0 && (
        <>
          <p style={{ marginTop: 10 }}>{msg.fromOtherCarsOfThisKind}</p>
          <ul className={styles['remarks']}>
            {still.map((o) => (
              <li key={o.id}>
                {o.text}{' '}
                <Button size="small" aria-label={`Take over: ${o.text}`} onClick={() => add({ ...o, id: freshId() })}>
                  {msg.takeOver}
                </Button>
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}
