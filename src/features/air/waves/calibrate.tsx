'use client';

import { Button, Progress } from 'antd';
import { useEffect, useMemo, useState } from 'react';
import { FIGURE_MARK, type FigureKey, type InletFigures } from '@/core/job/wave-inlet';
import type { JobModel } from '@/core/job/model';
import {
  calibrationPoints,
  calibrationRound,
  calibrationSpeeds,
  FEWEST_SPEEDS,
  SETTLED,
  type Calibrated,
  type CalibrationFigure,
} from '@/core/waves/calibrate';
import { calibrationWorking } from '@/core/working/wave-working';
import { formatNumber, formatQuantity } from '@/core/units/quantity';
import { useJob } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import { knownAt } from './curve-chart';
import { msg } from './messages';
import { useTasks, type Waves } from './use-waves';
import { FIGURE_WORDS } from './words';
import styles from './waves.module.css';

const DEGREE = Math.PI / 180;
const SPEEDS = 12;
const MOST_ROUNDS = 6;

/**
 * What is fitted where nobody knows it: the cam's duration, the runner's length and the valve's size, which stands for how well it
 * flows. How far each is moved to see what it does, and how well the usual figure is known (one standard error).
 */
const FITTED: Readonly<
  Partial<Record<FigureKey, { step: (v: number) => number; known: (v: number) => number; least: number; most: number }>>
> = {
  inletDuration_rad: {
    step: () => 4 * DEGREE,
    known: () => 12 * DEGREE,
    least: 180 * DEGREE,
    most: 330 * DEGREE,
  },
  length_m: { step: (v) => 0.04 * v, known: (v) => 0.12 * v, least: 0.04, most: 1.5 },
  inletDiameter_m: { step: (v) => 0.03 * v, known: (v) => 0.06 * v, least: 0.01, most: 0.09 },
};

const pct = (share: number): string => `${formatNumber(100 * share, 1)} %`;

interface Fit {
  /** What it was begun for: other figures, another fit. */
  readonly of: Waves['setup'];
  readonly values: readonly number[];
  readonly rounds: number;
  readonly first: Calibrated | null;
  readonly last: Calibrated | null;
  readonly over: boolean;
}

/** The model's own curve set against the measured one, and the figures nobody knows fitted to it. */
export function Calibrate({ model, waves }: { model: JobModel; waves: Waves }) {
  const from = useJob((s) => s.doc.car.from.efficiency);
  return (
    <section className={styles['below']}>
      <Heading>{msg.againstMeasured}</Heading>
      {from === 'table' ? <p className="quiet">{msg.nothingMeasured}</p> : <AgainstMeasured model={model} waves={waves} source={from} />}
    </section>
  );
}

function AgainstMeasured({ model, waves, source }: { model: JobModel; waves: Waves; source: 'power' | 'air' | 'boost' }) {
  const { pack } = usePrefs();
  const set = useJob((s) => s.set);
  const curve = useJob((s) => s.doc.car.measured[source]);
  const { setup, assumed, now } = waves;
  const keys = useMemo(() => assumed.filter((k) => FITTED[k]), [assumed]);
  const rpm = useMemo(() => calibrationSpeeds(curve?.rpm ?? [], [model.rpm[0]!, model.rpm.at(-1)!], SPEEDS), [model, curve]);
  const measured = useMemo(() => rpm.map(knownAt(model, waves)), [rpm, model, waves]);
  const [fit, setFit] = useState<Fit | null>(null);
  const on = fit !== null && fit.of === waves.setup;
  const figures = useMemo(
    () =>
      on
        ? keys.map((k, j): CalibrationFigure => {
            const f = FITTED[k]!;
            return { value: fit.values[j]!, least: f.least, most: f.most, step: f.step(now[k]), known: f.known(now[k]) };
          })
        : [],
    [on, fit, keys, now],
  );
  const tasks = useMemo(() => {
    if (!on || fit.over) return null;
    return calibrationPoints(figures).flatMap((values) => {
      const at: InletFigures = { ...now, ...Object.fromEntries(keys.map((k, j) => [k, values[j]!])) };
      return rpm.map((n) => ({ engine: setup.engineAt(at, n), rpm: n }));
    });
  }, [on, fit, figures, now, keys, rpm, setup]);
  const { results, progress, lost } = useTasks(tasks);
  useEffect(() => {
    if (!on || fit.over || progress !== null || results.length === 0) return;
    const filling = calibrationPoints(figures).map((_, v) =>
      rpm.map((_n, i) => {
        const r = results[v * rpm.length + i];
        return r?.settled ? r.W : null;
      }),
    );
    const round = calibrationRound(figures, measured, filling);
    const rounds = fit.rounds + 1;
    // The figures as they fit are looked at once more, so that how far off they are is the model's own word.
    const over = round === null || keys.length === 0 || (fit.rounds > 0 && round.moved < SETTLED) || rounds >= MOST_ROUNDS;
    // The next round begins once this one is drawn.
    const next = setTimeout(
      () => setFit({ of: setup, values: round?.values ?? fit.values, rounds, first: fit.first ?? round, last: round, over }),
      0,
    );
    return () => clearTimeout(next);
  }, [on, fit, progress, results, figures, rpm, measured, keys, setup]);
  const begin = (): void => setFit({ of: setup, values: keys.map((k) => now[k]), rounds: 0, first: null, last: null, over: false });
  const { first, last } = on ? fit : { first: null, last: null };
  const found = on && fit.over && last ? keys.map((k, j) => ({ key: k, value: last.values[j]!, error: last.errors[j] ?? null })) : [];
  const told = found.filter((f) => f.error !== null);
  return (
    <>
      {!on && rpm.length < FEWEST_SPEEDS && <p>{msg.tooFewMeasured}</p>}
      {!on && rpm.length >= FEWEST_SPEEDS && (
        <>
          <p>
            {keys.length === 0 ? msg.allGivenCompare : `Fitted where nobody knows it: ${keys.map((k) => FIGURE_WORDS[k].name).join(', ')}.`}
          </p>
          <Button size="small" onClick={begin}>
            {keys.length === 0 ? msg.compareCurves : msg.fitThem}
          </Button>
        </>
      )}
      {on && !fit.over && (
        <div className={styles['tools']}>
          <Progress
            percent={Math.round((100 * (fit.rounds + (progress ?? 1))) / MOST_ROUNDS)}
            style={{ flex: '1 1 160px' }}
            aria-label={msg.fittingThem}
          />
          <Button size="small" onClick={() => setFit(null)}>
            {msg.stop}
          </Button>
        </div>
      )}
      {on && fit.over && !last && <p role="status">{msg.tooFewSettled}</p>}
      {on && fit.over && first && last && (
        <div role="status">
          <p>
            {msg.theModelsShape} {pct(first.off_before)} {msg.offTheMeasured}
            {keys.length > 0 && told.length > 0 && ` With the figures below it is ${pct(last.off)} off.`}
            {lost > 0 && ` ${msg.lostSome}`}
          </p>
          {found.length > 0 && (
            <table className="plain">
              <thead>
                <tr>
                  <th>{msg.figure}</th>
                  <th className="num">{msg.taken}</th>
                  <th className="num">{msg.fitsBest}</th>
                </tr>
              </thead>
              <tbody>
                {found.map(({ key, value, error }) => {
                  const { name, measure } = FIGURE_WORDS[key];
                  return (
                    <tr key={key}>
                      <td>{name}</td>
                      <td className="num">{formatQuantity(now[key], measure, pack)}</td>
                      <td className="num">
                        {error === null ? (
                          msg.cannotBeTold
                        ) : (
                          <>
                            <Num
                              small
                              label={`${name}, fitted`}
                              working={() =>
                                calibrationWorking(
                                  name,
                                  measure,
                                  { taken: now[key], value, error, known: FITTED[key]!.known(now[key]) },
                                  { speeds: last.speeds, off_before: first.off_before, off: last.off },
                                )
                              }
                            >
                              {formatQuantity(value, measure, pack)}
                            </Num>{' '}
                            ({formatQuantity(value - 2 * error, measure, pack)} {msg.to} {formatQuantity(value + 2 * error, measure, pack)})
                          </>
                        )}
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          )}
          {keys.length > 0 && <p className="quiet">{told.length === 0 ? msg.curveTellsNone : msg.fittedCaution}</p>}
          {told.length > 0 && (
            <Button
              size="small"
              onClick={() => {
                // Fitted is not known: they stay marked as assumed.
                for (const { key, value } of told) set(`car.${FIGURE_MARK[key]}`, value, 'assumed');
                if (told.some((t) => t.key === 'inletDuration_rad')) set('car.inlet.inlet.toldAt_m', 0);
              }}
            >
              {msg.takeTheseFigures}
            </Button>
          )}
        </div>
      )}
    </>
  );
}
