'use client';

import { Button, Progress } from 'antd';
import { useMemo, useState } from 'react';
import type { FigureKey, InletFigures } from '@/core/job/wave-inlet';
import { tried } from '@/core/job/wave-inlet';
import { formatNumber, formatQuantity } from '@/core/units/quantity';
import { useJob } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop-page';
import { usePrefs } from '@/ui/theme/prefs';
import { msg } from './messages';
import { useTasks, type Waves } from './use-waves';
import { FIGURE_WORDS, LEFT_OUT_WORDS } from './words';
import styles from './waves.module.css';

const DEGREE = Math.PI / 180;
/** How far an assumed figure is moved: about as far as the true one may well lie. */
const MOVES: Readonly<Partial<Record<FigureKey, (v: number) => number>>> = {
  length_m: (v) => v * 1.1,
  mouthBore_m: (v) => v * 1.05,
  valveBore_m: (v) => v * 1.05,
  edgeRadius_m: (v) => v * 0.5,
  throttleAt_m: (v) => v * 0.8,
  plenum_m3: (v) => v * 1.3,
  inletDiameter_m: (v) => v * 1.05,
  inletLift_m: (v) => v * 1.1,
  inletDuration_rad: (v) => v + 10 * DEGREE,
  inletCentre_rad: (v) => v + 4 * DEGREE,
  exhaustDiameter_m: (v) => v * 1.05,
  exhaustLift_m: (v) => v * 1.1,
  exhaustDuration_rad: (v) => v + 10 * DEGREE,
  exhaustCentre_rad: (v) => v + 4 * DEGREE,
  rod_m: (v) => v * 1.1,
};
/** What the grid itself moves a ratio by. */
const OWN_ERROR = 0.005;
const SPEEDS = 5;

/** With which assumed figures the answer stands and falls, found by moving each a little, and what the model leaves out. */
export function RestsOn({ waves }: { waves: Waves }) {
  const { pack } = usePrefs();
  const { setup, assumed, rpm, differs } = waves;
  const { figures } = setup.inlet;
  const trial = useJob((s) => s.doc.pick.inlet);
  const [asked, setAsked] = useState<Waves | null>(null);
  const on = asked === waves;
  const moved = useMemo(() => assumed.filter((k) => MOVES[k]), [assumed]);
  const speeds = useMemo(() => Array.from({ length: SPEEDS }, (_, i) => rpm[Math.round(((i + 0.5) / SPEEDS) * (rpm.length - 1))]!), [rpm]);
  const tasks = useMemo(() => {
    if (!on) return null;
    const variants: InletFigures[] = [figures, ...moved.map((k) => ({ ...figures, [k]: MOVES[k]!(figures[k]) }))];
    return variants.flatMap((f) => [
      ...speeds.map((n) => ({ engine: setup.engineAt(f, n), rpm: n })),
      ...(differs ? speeds.map((n) => ({ engine: setup.engineAt(tried(f, trial), n), rpm: n })) : []),
    ]);
  }, [on, figures, moved, speeds, setup, differs, trial]);
  const { results, progress } = useTasks(tasks);
  const rows = useMemo(() => {
    if (!on || progress !== null || results.length === 0) return null;
    const per = speeds.length * (differs ? 2 : 1);
    /** The answer of a variant at each speed: the ratio that is tried, or else its filling over its own mean. */
    const answer = (v: number): (number | null)[] => {
      const W = (i: number): number | null => {
        const r = results[v * per + i];
        return r && r.settled ? r.W : null;
      };
      const own = speeds.map((_, i) => W(i));
      if (differs) return own.map((a, i) => (a === null || W(speeds.length + i) === null ? null : W(speeds.length + i)! / a));
      const known = own.filter((x): x is number => x !== null);
      const mean = known.reduce((a, b) => a + b, 0) / Math.max(known.length, 1);
      return own.map((a) => (a === null ? null : a / mean));
    };
    const base = answer(0);
    return moved
      .map((key, k) => {
        const other = answer(k + 1);
        const offs = base.flatMap((b, i) => (b === null || other[i] === null ? [] : [Math.abs(other[i]! - b)]));
        return { key, off: offs.length === 0 ? null : Math.max(...offs) };
      })
      .sort((a, b) => (b.off ?? 0) - (a.off ?? 0));
  }, [on, progress, results, moved, speeds, differs]);
  const whole = rows && Math.sqrt(rows.reduce((sum, r) => sum + (r.off ?? 0) ** 2, OWN_ERROR ** 2));
  return (
    <section>
      <Heading>{msg.whatItRestsOn}</Heading>
      <p>{msg.everyThrottle}</p>
      <ul className="quiet" style={{ paddingLeft: 18, margin: '6px 0' }}>
        {setup.leftOut.map((k) => (
          <li key={k}>{LEFT_OUT_WORDS[k]}</li>
        ))}
      </ul>
      {assumed.length === 0 ? (
        <p>{msg.allKnown}</p>
      ) : (
        <>
          <p>
            Assumed: {assumed.map((k) => `${FIGURE_WORDS[k].name} ${formatQuantity(figures[k], FIGURE_WORDS[k].measure, pack)}`).join(', ')}
            .
          </p>
          <div className={styles['tools']}>
            {on && progress !== null ? (
              <>
                <Progress percent={Math.round(100 * progress)} style={{ flex: '1 1 160px' }} aria-label={msg.tryAssumed} />
                <Button size="small" onClick={() => setAsked(null)}>
                  {msg.stop}
                </Button>
              </>
            ) : (
              !on && (
                <Button size="small" onClick={() => setAsked(waves)}>
                  {msg.tryAssumed}
                </Button>
              )
            )}
          </div>
        </>
      )}
      {rows && whole !== null && (
        <>
          <p>
            {differs ? 'What is tried' : 'The shape of the curve'} is good to about ±{formatNumber(whole * 100, 1)} % at any one speed, by
            the assumed figures and the model’s own half percent together.
          </p>
          <table className="plain">
            <thead>
              <tr>
                <th>{msg.assumedFigure}</th>
                <th className="num">{msg.ifItIs}</th>
                <th className="num">{msg.moves}</th>
              </tr>
            </thead>
            <tbody>
              {rows.map(({ key, off }) => (
                <tr key={key}>
                  <td>{FIGURE_WORDS[key].name}</td>
                  <td className="num">{formatQuantity(MOVES[key]!(figures[key]), FIGURE_WORDS[key].measure, pack)}</td>
                  <td className="num">{off === null ? 'not settled' : `±${formatNumber(off * 100, 1)} %`}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </section>
  );
}
