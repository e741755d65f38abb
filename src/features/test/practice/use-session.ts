'use client';

import { useEffect, useState } from 'react';
import type { PracticeDecision, PracticeRig, StoredPractice } from '@/core/documents/practice';
import type { DynoReading } from '@/core/stand-ins/dyno';
import type { PracticeScore } from '@/core/stand-ins/practice';
import { useJob, useShelf } from '@/features/job/provider';
import { send } from '@/ui/post';
import { useStream } from '../use-stream';

/** How the next pull or pass is to be made. */
export interface NextRun {
  readonly side: 'A' | 'B';
  readonly rest_min: number;
  /** The car is put on anew first. */
  readonly newStay: boolean;
  readonly day: number;
}
const FIRST: NextRun = { side: 'A', rest_min: 8, newStay: false, day: 1 };

/** A session of practice: what it is, and what a person can do in it. */
export function useSession(unitId: string | null) {
  const id = useJob((s) => s.id);
  const plan = useJob((s) => s.doc.test.plan);
  const shelf = useShelf();
  const pull = useStream<DynoReading>();
  const [practice, setPractice] = useState<StoredPractice | null>(null);
  const [score, setScore] = useState<PracticeScore | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const [next, setNext] = useState(FIRST);
  const tell = (error: unknown): void => setWrong((error as Error).message);
  const change = (more: Partial<NextRun>): void => setNext((n) => ({ ...n, ...more }));
  useEffect(() => {
    let current = true;
    send<StoredPractice[]>('GET', `/api/jobs/${id}/practice`)
      .then((list) => current && setPractice(list.find((p) => p.decision === null) ?? null))
      .catch((e: unknown) => current && setWrong((e as Error).message));
    return () => {
      current = false;
    };
  }, [id]);
  const begin = (rig: PracticeRig): void => {
    const unit = unitId ?? shelf[0]?.id;
    if (!unit) return setWrong('The shelf is empty: put a throttle on it first.');
    setScore(null);
    setWrong(null);
    change({ day: 1, newStay: false });
    pull.stop();
    send<StoredPractice>('POST', `/api/jobs/${id}/practice`, { unitId: unit, plan, guess_pct: null, rig }).then(setPractice).catch(tell);
  };
  const run = (): void => {
    if (!practice) return;
    setWrong(null);
    const keep = (): void => {
      send<StoredPractice>('POST', `/api/practice/${practice.id}/pull`, next)
        .then((p) => {
          setPractice(p);
          change({ newStay: false });
        })
        .catch(tell);
    };
    if (practice.setup.rig === 'strip') return keep();
    const query = new URLSearchParams(Object.entries(next).map(([name, value]) => [name, String(value)]));
    pull.start(`/api/practice/${practice.id}/pull?${query}`, keep);
  };
  const decide = (decision: PracticeDecision): void => {
    send<{ practice: StoredPractice; score: PracticeScore }>('POST', `/api/practice/${practice!.id}/decision`, decision)
      .then((done) => {
        setPractice(done.practice);
        setScore(done.score);
      })
      .catch(tell);
  };
  const leave = (seq: number, leftOut: string | null): void => {
    send<StoredPractice>('PUT', `/api/practice/${practice!.id}/pull`, { seq, leftOut }).then(setPractice).catch(tell);
  };
  return { practice, score, wrong, pull, next, change, begin, run, decide, leave, open: practice !== null && practice.decision === null };
}
export type Session = ReturnType<typeof useSession>;
