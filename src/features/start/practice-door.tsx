'use client';

import { Button, Select } from 'antd';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Heading, StopPage } from '@/ui/answer/stop-page';
import { send } from '@/ui/post';
import { PracticeDrawing } from '@/features/test/practice/drawing';
import styles from './start.module.css';
import { msg } from './messages';

interface Choice {
  readonly id: string;
  readonly number: number;
  readonly name: string;
}

/** The way into practice from anywhere: which car's engine the simulated dyno turns. */
export function PracticeDoor({ jobs }: { jobs: readonly Choice[] }) {
  const router = useRouter();
  const [job, setJob] = useState<string | null>(jobs[0]?.id ?? null);
  const [wrong, setWrong] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const begin = async (): Promise<void> => {
    setBusy(true);
    setWrong(null);
    try {
      const id = job ?? (await send<{ id: string }>('POST', '/api/jobs', { example: true })).id;
      router.push(`/jobs/${id}/test?view=practice`);
    } catch (e) {
      setWrong((e as Error).message);
      setBusy(false);
    }
  };
  return (
    <StopPage
      answer={msg.practiseTheTruthIsHiddenThe}
      reason={msg.planAsYouWouldRunAs}
      aside={
        <>
          <Heading>{msg.onWhichCar}</Heading>
          {jobs.length === 0 ? (
            <p>{msg.thereIsNoJobYetPractice}</p>
          ) : (
            <Select
              aria-label={msg.carToPractiseOn}
              showSearch={{ optionFilterProp: 'label' }}
              style={{ width: '100%' }}
              value={job}
              options={jobs.map((j) => ({ value: j.id, label: `${j.number}  ${j.name}` }))}
              onChange={setJob}
            />
          )}
          <Button type="primary" block style={{ marginTop: 10 }} loading={busy} onClick={() => void begin()}>
            {msg.begin}
          </Button>
          {wrong && (
            <p role="alert" className={styles['wrong']}>
              {wrong}
            </p>
          )}
          <p className="quiet">{msg.nothingOfAPracticeSessionIs}</p>
        </>
      }
    >
      <PracticeDrawing />
    </StopPage>
  );
}
