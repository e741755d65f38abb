'use client';

import { Button, Progress, Segmented } from 'antd';
import { useEffect, useMemo, useState } from 'react';
import { FIGURE_MARK, type FigureKey, type InletFigures } from '@/core/job/wave-inlet';
import type { JobModel } from '@/core/job/model';
import {
  calibrationPoints,
  calibrationRound,
  calibrationSpeeds,
  FEWEST_SPEEDS,
  rootOfDrop,
  SETTLED,
  type Calibrated,
  type CalibrationFigure,
} from '@/core/waves/calibrate';
import { calibrationWorking } from '@/core/working/wave-working';
import { formatNumber, formatQuantity } from '@/core/units/quantity';
import { useJob } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop-page';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import type { WaveEngine } from '@/core/waves/input';
import type { WaveResult } from '@/core/waves/result';
import { knownAt } from './curve-chart';
import { msg } from './messages';
import { useManifoldDrop } from './use-manifold-drop';
import { useTasks, type Waves } from './use-waves';
import { FIGURE_WORDS } from './words';
import type { ManifoldDrop } from './manifold-drop.worker';
import styles from './waves.module.css';

const DEGREE = Math.PI / 180;
const SPEEDS = 12;
const MOST_ROUNDS = 6;
/** How well throttle and path pass is found once a round changes it by less than this share. */
const LEVEL_FOUND = 0.005;

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
  /** Throttle and path pass so many times what their figures say: found with the rest where a manifold's pressure is looked at. */
  readonly passes: number;
  readonly rounds: number;
  readonly first: Calibrated | null;
  readonly last: Calibrated | null;
  readonly over: boolean;
}

/** What the model is set against: its speeds, what was measured there, and what the model has of the same; any scale. */
interface Target {
  readonly rpm: readonly number[];
  readonly measured: readonly number[];
  readonly of: (result: WaveResult, i: number) => number | null;
  /** Whether its level says how well throttle and path pass. */
  readonly isDrop: boolean;
}

/** What stands behind the manifold's curve, and what was left out. */
const manifoldWords = ({ runs, withoutKeyOn, noPull }: ManifoldDrop): string =>
  `Stock’s manifold pressure below its key-on reading, ${runs === 1 ? 'one run' : `mean of ${runs} runs`}${withoutKeyOn > 0 ? `; ${withoutKeyOn} without a key-on reading left out` : ''}${noPull > 0 ? `; ${noPull} without a wide-open pull left out` : ''}.`;

/** Stock's manifold pressure as far as it is read, and the fit to it. */
function ManifoldPart({ model, waves, drop, failed }: { model: JobModel; waves: Waves; drop: ManifoldDrop | null; failed: boolean }) {
  if (failed) return <p role="alert">{msg.runsUnread}</p>;
  if (!drop) return <p className="quiet">{msg.readingRuns}</p>;
  if (drop.runs === 0) return <p>{drop.noPull > 0 && drop.withoutKeyOn === 0 ? msg.noPulls : msg.noKeyOn}</p>;
  return (
    <>
      <p className="quiet">{manifoldWords(drop)}</p>
      <AgainstManifold model={model} waves={waves} drop={drop} />
    </>
  );
}

/** The model's own curve set against a measured one, and the figures nobody knows fitted to it. */
export function Calibrate({ model, waves }: { model: JobModel; waves: Waves }) {
  const from = useJob((s) => s.doc.car.from.efficiency);
  const { hasThrottle, inlet } = waves.setup;
  // Behind a compressor the manifold shows the boost, and before a throttle of its own each runner is open air.
  const tells = hasThrottle && inlet.keys.includes('plenum_m3');
  const boosted = useJob((s) => s.doc.car.induction.kind !== 'na');
  const [wish, setWish] = useState<'filling' | 'manifold' | null>(null);
  const { offered, drop, failed } = useManifoldDrop(tells && !boosted && wish === 'manifold');
  const manifold = offered && tells && !boosted;
  const on = wish === 'manifold' ? wish : from === 'table' ? null : 'filling';
  return (
    <section className={styles['below']}>
      <Heading>{msg.againstMeasured}</Heading>
      {from === 'table' && (on === null || drop?.runs === 0) && <p className="quiet">{msg.nothingMeasured}</p>}
      {manifold && from === 'table' && on === null && (
        <Button size="small" onClick={() => setWish('manifold')}>
          {msg.setAgainstManifold}
        </Button>
      )}
      {manifold && from !== 'table' && (
        <div className={styles['tools']}>
          <span>{msg.setAgainst}</span>
          <Segmented<'filling' | 'manifold'>
            size="small"
            aria-label={msg.setAgainst}
            value={on ?? 'filling'}
            options={[
              { value: 'filling', label: msg.againstFilling },
              { value: 'manifold', label: msg.againstManifold },
            ]}
            onChange={setWish}
          />
        </div>
      )}
      {on === 'filling' && from !== 'table' && <AgainstFilling model={model} waves={waves} source={from} />}
      {on === 'manifold' && manifold && <ManifoldPart model={model} waves={waves} drop={drop} failed={failed} />}
    </section>
  );
}

function AgainstFilling({ model, waves, source }: { model: JobModel; waves: Waves; source: 'power' | 'air' | 'boost' }) {
  const curve = useJob((s) => s.doc.car.measured[source]);
  const target = useMemo((): Target => {
    const rpm = calibrationSpeeds(curve?.rpm ?? [], [model.rpm[0]!, model.rpm.at(-1)!], SPEEDS);
    return { rpm, measured: rpm.map(knownAt(model, waves)), of: (r) => r.W, isDrop: false };
  }, [model, waves, curve]);
  return <Against waves={waves} target={target} tooFew={msg.tooFewMeasured} />;
}

function AgainstManifold({ model, waves, drop }: { model: JobModel; waves: Waves; drop: ManifoldDrop }) {
  const target = useMemo((): Target => {
    const told = drop.rpm.filter((_, i) => rootOfDrop(drop.drop_Pa[i]!) !== null);
    const rpm = calibrationSpeeds(told, [model.rpm[0]!, model.rpm.at(-1)!], SPEEDS);
    const at = new Map(drop.rpm.map((n, i) => [n, rootOfDrop(drop.drop_Pa[i]!)!]));
    const open_Pa = rpm.map((n) => waves.setup.engineAt(waves.now, n).ambient?.p_Pa ?? 101_325);
    return { rpm, measured: rpm.map((n) => at.get(n)!), of: (r, i) => rootOfDrop(open_Pa[i]! - r.plenum_Pa), isDrop: true };
  }, [model, waves, drop]);
  return <Against waves={waves} target={target} tooFew={msg.tooLittleDrop} />;
}

/** An engine whose throttle passes so many times what its figures say. */
const withPassing = (engine: WaveEngine, passes: number): WaveEngine =>
  passes === 1 || !engine.throttle
    ? engine
    : { ...engine, throttle: { ...engine.throttle, effectiveArea_m2: passes * engine.throttle.effectiveArea_m2 } };

/** The fit as it goes: round by round, each begun once the one before is drawn, until it moves no more. */
function useFit(waves: Waves, { rpm, measured, of, isDrop }: Target) {
  const { setup, assumed, now } = waves;
  const keys = useMemo(() => assumed.filter((k) => FITTED[k]), [assumed]);
  const [fit, setFit] = useState<Fit | null>(null);
  // Begun for other figures, it is another fit.
  const own = fit !== null && fit.of === setup ? fit : null;
  const figures = useMemo(
    () =>
      own
        ? keys.map((k, j): CalibrationFigure => {
            const f = FITTED[k]!;
            return { value: own.values[j]!, least: f.least, most: f.most, step: f.step(now[k]), known: f.known(now[k]) };
          })
        : [],
    [own, keys, now],
  );
  const tasks = useMemo(() => {
    if (!own || own.over) return null;
    return calibrationPoints(figures).flatMap((values) => {
      const at: InletFigures = { ...now, ...Object.fromEntries(keys.map((k, j) => [k, values[j]!])) };
      return rpm.map((n) => ({ engine: withPassing(setup.engineAt(at, n), own.passes), rpm: n }));
    });
  }, [own, figures, now, keys, rpm, setup]);
  const { results, progress, lost } = useTasks(tasks);
  useEffect(() => {
    if (!own || own.over || progress !== null || results.length === 0) return;
    const filling = calibrationPoints(figures).map((_, v) =>
      rpm.map((_n, i) => {
        const r = results[v * rpm.length + i];
        return r?.settled ? of(r, i) : null;
      }),
    );
    const round = calibrationRound(figures, measured, filling);
    const rounds = own.rounds + 1;
    // The figures as they fit are looked at once more, so that how far off they are is the model's own word.
    const settled = (r: Calibrated): boolean => r.moved < SETTLED && (!isDrop || Math.abs(r.level - 1) < LEVEL_FOUND);
    const asked = keys.length > 0 || isDrop;
    const over = round === null || !asked || (own.rounds > 0 && settled(round)) || rounds >= MOST_ROUNDS;
    const passes = isDrop && round ? own.passes / round.level : 1;
    // The next round begins once this one is drawn.
    const next = setTimeout(
      () => setFit({ of: setup, values: round?.values ?? own.values, passes, rounds, first: own.first ?? round, last: round, over }),
      0,
    );
    return () => clearTimeout(next);
  }, [own, progress, results, figures, rpm, measured, keys, setup, of, isDrop]);
  return {
    keys,
    /** Null: not begun, for these figures. */
    fit: own,
    progress,
    lost,
    begin: (): void => setFit({ of: setup, values: keys.map((k) => now[k]), passes: 1, rounds: 0, first: null, last: null, over: false }),
    stop: (): void => setFit(null),
  };
}

/** A figure that was fitted; without an error the curve cannot tell it. */
interface Fitted {
  readonly key: keyof InletFigures;
  readonly value: number;
  readonly error: number | null;
}

function FittedRow({
  fitted: { key, value, error },
  taken,
  first,
  last,
}: {
  fitted: Fitted;
  taken: number;
  first: Calibrated;
  last: Calibrated;
}) {
  const { pack } = usePrefs();
  const { name, measure } = FIGURE_WORDS[key];
  const told = (v: number): string => formatQuantity(v, measure, pack);
  return (
    <tr>
      <td>{name}</td>
      <td className="num">{told(taken)}</td>
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
                  { taken, value, error, known: FITTED[key]!.known(taken) },
                  { speeds: last.speeds, off_before: first.off_before, off: last.off },
                )
              }
            >
              {told(value)}
            </Num>{' '}
            ({told(value - 2 * error)} {msg.to} {told(value + 2 * error)})
          </>
        )}
      </td>
    </tr>
  );
}

/** How far the model is off before and after, each figure as it was taken and as it fits, and the way to take those that are told. */
function FitTold({
  fit: { passes },
  first,
  last,
  keys,
  now,
  lost,
  isDrop,
}: {
  fit: Fit;
  first: Calibrated;
  last: Calibrated;
  keys: readonly (keyof InletFigures)[];
  now: InletFigures;
  lost: number;
  isDrop: boolean;
}) {
  const set = useJob((s) => s.set);
  const found = keys.map((key, j): Fitted => ({ key, value: last.values[j]!, error: last.errors[j] ?? null }));
  const told = found.filter((f) => f.error !== null);
  return (
    <div role="status">
      <p>
        {msg.theModelsShape} {pct(first.off_before)} {msg.offTheMeasured}
        {told.length > 0 && ` With the figures below it is ${pct(last.off)} off.`}
        {lost > 0 && ` ${msg.lostSome}`}
        {isDrop && ` ${msg.passesOfFigures} ${formatNumber(100 * passes, 0)} % ${msg.ofTheirFigures}`}
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
            {found.map((f) => (
              <FittedRow key={f.key} fitted={f} taken={now[f.key]} first={first} last={last} />
            ))}
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
  );
}

function Against({ waves, target, tooFew }: { waves: Waves; target: Target; tooFew: string }) {
  const { keys, fit, progress, lost, begin, stop } = useFit(waves, target);
  const { length: speeds } = target.rpm;
  if (!fit)
    return speeds < FEWEST_SPEEDS ? (
      <p>{tooFew}</p>
    ) : (
      <>
        <p>
          {keys.length === 0 ? msg.allGivenCompare : `Fitted where nobody knows it: ${keys.map((k) => FIGURE_WORDS[k].name).join(', ')}.`}
        </p>
        <Button size="small" onClick={begin}>
          {keys.length === 0 ? msg.compareCurves : msg.fitThem}
        </Button>
      </>
    );
  if (!fit.over)
    return (
      <div className={styles['tools']}>
        <Progress
          percent={Math.round((100 * (fit.rounds + (progress ?? 1))) / MOST_ROUNDS)}
          style={{ flex: '1 1 160px' }}
          aria-label={msg.fittingThem}
        />
        <Button size="small" onClick={stop}>
          {msg.stop}
        </Button>
      </div>
    );
  const { first, last } = fit;
  if (!last || !first) return <p role="status">{msg.tooFewSettled}</p>;
  return <FitTold fit={fit} first={first} last={last} keys={keys} now={waves.now} lost={lost} isDrop={target.isDrop} />;
}
