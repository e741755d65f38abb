'use client';

import { Button, Progress, Segmented } from 'antd';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { JobModel } from '@/core/job/model';
import { waveScore, WAVE_PURPOSES, type WavePurpose } from '@/core/job/wave-answer';
import { gridOrder, gridTasks } from '@/core/job/wave-sweep';
import { formatNumber, formatQuantity } from '@/core/units/quantity';
import { useJob } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop';
import { usePrefs } from '@/ui/theme/prefs';
import { knownAt } from './curve-chart';
import { msg } from './messages';
import { paint, shader } from './shades';
import { curveSpeeds, useBand, useTasks, type Waves } from './use-waves';
import { useServerSweep } from './use-server-sweep';
import { PURPOSE_WORDS } from './words';
import styles from './waves.module.css';

/** Lengths and speeds of the map that this browser computes in half a minute, and of the one that is left to a worker. */
const HERE = { lengths: 12, speeds: 24, round_m: 0.005 };
const FINE = { lengths: 24, speeds: 47, round_m: 0.001 };
/** From how much shorter to how much longer than it is. */
const SPAN = [0.55, 1.7] as const;
/** Shades reach their full at a difference of so much. */
const FULL = 0.1;

/** Filling over runner length and engine speed beside the inlet as it is, and the best length for a purpose. */
export function LengthMap({ model, waves }: { model: JobModel; waves: Waves }) {
  const { pack, palette } = usePrefs();
  const set = useJob((s) => s.set);
  const band = useBand(model);
  const canvas = useRef<HTMLCanvasElement>(null);
  // What is computed is computed for these figures: others ask for it anew.
  const [asked, setAsked] = useState<{ of: Waves['setup']; stopped: boolean; fine: boolean; nth: number } | null>(null);
  const [purpose, setPurpose] = useState<WavePurpose>('band');
  const { setup, now } = waves;
  const on = asked !== null && asked.of === setup;
  const fine = on && asked.fine;
  const grid = fine ? FINE : HERE;
  const rpm = useMemo(() => curveSpeeds(model.rpm[0]!, model.rpm.at(-1)!, grid.speeds), [model, grid]);
  const lengths = useMemo(() => {
    const [lo, hi] = [now.length_m * SPAN[0], now.length_m * SPAN[1]];
    const at = (i: number): number => Math.round((lo + ((hi - lo) * i) / (grid.lengths - 1)) / grid.round_m) * grid.round_m;
    return Array.from({ length: grid.lengths }, (_, i) => at(i));
  }, [now, grid]);
  const tasks = useMemo(
    () => (on && !fine ? gridTasks(setup, now, { lengths_m: lengths, rpm }) : null),
    [on, fine, lengths, rpm, setup, now],
  );
  const nth = asked?.nth ?? 0;
  // Asked for once more after it failed, it is another wish for the same map.
  const wanted = useMemo(() => (fine && nth > 0 ? { lengths_m: lengths, rpm } : null), [fine, nth, lengths, rpm]);
  const ask = (how: { fine: boolean }): void => setAsked({ of: setup, stopped: false, fine: how.fine, nth: nth + 1 });
  const order = useMemo(() => gridOrder(lengths.length, rpm.length), [lengths, rpm]);
  const halted = asked?.stopped ?? false;
  const here = useTasks(tasks, { order, halted });
  const there = useServerSweep(wanted, halted);
  const shown = !on ? null : fine ? there : here;

  /** Ratio of a length at a speed to the inlet as it is, read between what is there already. */
  const ratio = useMemo(() => {
    /** Null: not computed yet; NaN: it did not settle, and stays a hole. */
    const at = (row: number, column: number): number | null => {
      const a = shown?.results[column];
      const b = shown?.results[(row + 1) * rpm.length + column];
      if (!a || !b) return null;
      return a.settled && b.settled ? b.W / a.W : NaN;
    };
    return lengths.map((_, row) => {
      const line = rpm.map((_, column) => at(row, column));
      return line.map((v, column) => {
        if (v !== null) return Number.isNaN(v) ? null : v;
        // Coarse first: a hole shows what its neighbours on either side say.
        let [l, r] = [column, column];
        while (l >= 0 && line[l] === null) l -= 1;
        while (r < line.length && line[r] === null) r += 1;
        if (l < 0 || r >= line.length) return null;
        // Beside one that did not settle nothing is known.
        if (Number.isNaN(line[l]!) || Number.isNaN(line[r]!)) return null;
        return line[l]! + ((line[r]! - line[l]!) * (column - l)) / (r - l);
      });
    });
  }, [shown, lengths, rpm]);
  const best = useMemo(() => {
    // Told once all of it is there: a coarse map may have its best elsewhere.
    if (!shown || shown.progress !== null || shown.results.some((r) => r === null)) return null;
    const known = knownAt(model, waves);
    const scored = lengths.flatMap((length_m, row) => {
      const there = rpm.map((_, i) => i).filter((i) => ratio[row]![i] !== null);
      const score = waveScore(
        there.map((i) => rpm[i]!),
        there.map((i) => ratio[row]![i]! * known(rpm[i]!)),
        purpose,
        band,
      );
      return score === null ? [] : [{ length_m, score }];
    });
    const asItIs = waveScore(rpm, rpm.map(known), purpose, band);
    const top = scored.length > 0 ? scored.reduce((a, b) => (b.score > a.score ? b : a)) : null;
    return top && asItIs !== null ? { ...top, gain: top.score / asItIs - 1 } : null;
  }, [shown, ratio, lengths, rpm, purpose, band, model, waves]);

  useEffect(() => {
    if (!canvas.current || !shown) return;
    const shade = shader(palette.series[2]!, palette.sheet, palette.series[0]!);
    const [w, h] = [rpm.length * 8, lengths.length * 8];
    paint(
      canvas.current,
      w,
      h,
      (x, y) => {
        // Smooth between the points of the grid; nothing where one of them is missing.
        const c = (x / (w - 1)) * (rpm.length - 1);
        const r = (1 - y / (h - 1)) * (lengths.length - 1);
        const [c0, r0] = [Math.min(Math.floor(c), rpm.length - 2), Math.min(Math.floor(r), lengths.length - 2)];
        const corner = [ratio[r0]![c0], ratio[r0]![c0 + 1], ratio[r0 + 1]![c0], ratio[r0 + 1]![c0 + 1]];
        if (corner.some((v) => v === null || v === undefined)) return null;
        const [a, b, d, e] = corner as number[];
        const [fx, fy] = [c - c0, r - r0];
        return ((a! * (1 - fx) + b! * fx) * (1 - fy) + (d! * (1 - fx) + e! * fx) * fy - 1) / FULL;
      },
      shade,
    );
  }, [shown, ratio, palette, rpm, lengths]);

  const left = (n: number): number => (100 * (n - rpm[0]!)) / (rpm.at(-1)! - rpm[0]!);
  const top = (length_m: number): number => 100 - (100 * (length_m - lengths[0]!)) / (lengths.at(-1)! - lengths[0]!);
  const running = on && shown?.progress !== null && shown !== null;
  return (
    <section>
      <Heading
        more={
          <span className="quiet">{`${lengths.length} lengths × ${rpm.length} speeds, beside ${formatQuantity(now.length_m, 'length', pack)}`}</span>
        }
      >
        {msg.mapOfLengths}
      </Heading>
      <div className={styles['tools']}>
        {running ? (
          <>
            <Progress percent={Math.round(100 * (shown.progress ?? 0))} style={{ flex: '1 1 160px' }} aria-label={msg.computeTheMap} />
            <Button size="small" onClick={() => setAsked({ of: setup, stopped: true, fine, nth })}>
              {msg.stop}
            </Button>
          </>
        ) : (
          <>
            <Button size="small" onClick={() => ask({ fine: false })} disabled={on && !fine && !asked.stopped}>
              {msg.computeTheMap}
            </Button>
            <Button size="small" onClick={() => ask({ fine: true })}>
              {msg.fineMap}
            </Button>
          </>
        )}
        {on && asked.stopped && <span className="quiet">{msg.stopped}</span>}
        {fine && !asked.stopped && there.says !== null && (
          <span className="quiet" role="status">
            {there.says}
          </span>
        )}
      </div>
      {shown && (
        <>
          <div className={styles['map']}>
            <canvas ref={canvas} role="img" aria-label={msg.mapAlt} />
            {[lengths[0]!, lengths[Math.floor(lengths.length / 2)]!, lengths.at(-1)!].map((l) => (
              <span key={l} className={styles['lengths']} style={{ top: `${top(l)}%` }}>
                {formatQuantity(l, 'length', pack)}
              </span>
            ))}
            <i className={styles['stripe']} style={{ top: `${top(now.length_m)}%` }} />
            <i
              className={styles['band']}
              style={{ left: `${left(Math.max(band[0], rpm[0]!))}%`, right: `${100 - left(Math.min(band[1], rpm.at(-1)!))}%` }}
            />
          </div>
          <div className={styles['angles']} style={{ marginLeft: 62 }} aria-hidden>
            {[0, 0.25, 0.5, 0.75, 1].map((s) => (
              <span key={s} style={{ left: `${100 * s}%` }}>
                {formatNumber(Math.round((rpm[0]! + s * (rpm.at(-1)! - rpm[0]!)) / 50) * 50, 0)}
                {s === 0.5 && ' rpm'}
              </span>
            ))}
          </div>
          <p className={styles['legend']} style={{ marginLeft: 62 }}>
            −10 %
            <i
              className={styles['ramp']}
              style={{ background: `linear-gradient(to right, ${palette.series[2]}, ${palette.sheet}, ${palette.series[0]})` }}
            />
            +10 % filling · dashed: as it is · upright lines: {formatNumber(Math.round(band[0] / 50) * 50, 0)} to{' '}
            {formatNumber(Math.round(band[1] / 50) * 50, 0)} rpm between shifts
          </p>
          <div className={styles['tools']}>
            <span>{msg.bestFor}</span>
            <Segmented
              size="small"
              aria-label={msg.bestFor}
              value={purpose}
              options={WAVE_PURPOSES.map((value) => ({ value, label: PURPOSE_WORDS[value] }))}
              onChange={setPurpose}
            />
            {purpose === 'low' && best === null && shown.progress === null && !asked?.stopped && (
              <span className="quiet">{msg.nothingBelow}</span>
            )}
            {best && (
              <>
                <b>
                  {formatQuantity(best.length_m, 'length', pack)}
                  {Math.abs(best.gain) < 0.005
                    ? ', no better than now'
                    : `, ${best.gain > 0 ? '+' : '−'}${formatNumber(Math.abs(best.gain) * 100, 1)} %`}
                </b>
                <Button size="small" onClick={() => set('pick.inlet.length_m', best.length_m)}>
                  {msg.takeItAsTried}
                </Button>
              </>
            )}
          </div>
        </>
      )}
    </section>
  );
}
