'use client';

import { CaretRightOutlined, PauseOutlined } from '@ant-design/icons';
import { Button } from 'antd';
import { memo, useEffect, useMemo, useRef, useState } from 'react';
import { ROWS, type WaveResult } from '@/core/waves/result';
import type { Segment } from '@/core/waves/shape';
import { shownUnit } from '@/core/units/measures';
import { formatNumber, formatQuantity } from '@/core/units/quantity';
import { fromSI } from '@/core/units/units';
import { Chart } from '@/ui/chart/lazy-chart';
import type { ChartSpec } from '@/ui/chart/figure';
import { Heading } from '@/ui/answer/stop-page';
import { usePrefs } from '@/ui/theme/prefs';
import { msg } from './messages';
import { paint, shader } from './shades';
import styles from './waves.module.css';

const CYCLE_deg = 720;
/** Rows of the picture from top to bottom: enough that a slanted stripe has no steps. */
const DEPTH = 120;
/** A cycle is played over so many seconds. */
const PLAY_s = 10;
const TICKS = [0, 90, 180, 270, 360, 450, 540, 630, 720] as const;
const TICK_WORDS: Readonly<Record<number, string>> = { 180: '180 bottom', 360: '360 top', 540: '540 bottom' };

/** Pressure at a share of the runner (0 mouth, 1 valve) in one row of the picture, Pa. */
function pressureAt({ picture }: WaveResult, row: number, share: number): number {
  const n = picture.places_m.length;
  const at = Math.min(Math.max(share * n - 0.5, 0), n - 1);
  const i = Math.min(Math.floor(at), n - 2);
  const a = picture.p_Pa[row * n + i]!;
  return a + (picture.p_Pa[row * n + i + 1]! - a) * (at - i);
}

/** The stretches of a cycle over which the inlet is open, °. */
function openStretch(area: Float64Array): readonly [number, number] | null {
  const open = [...area].map((a, i) => (a > 0 ? i : -1)).filter((i) => i >= 0);
  return open.length === 0 ? null : [(open[0]! / ROWS) * CYCLE_deg, (open.at(-1)! / ROWS) * CYCLE_deg];
}

/** The runner lengthwise, its gas shaded by its pressure at one crank angle. */
function Drawing({
  result,
  segments,
  row,
  swing_Pa,
  mean_Pa,
}: {
  result: WaveResult;
  segments: readonly Segment[];
  row: number;
  swing_Pa: number;
  mean_Pa: number;
}) {
  const { palette } = usePrefs();
  const shade = useMemo(() => shader(palette.series[3]!, palette.sheet, palette.series[1]!), [palette]);
  const whole = segments.reduce((sum, s) => sum + s.length_m, 0);
  const widest = Math.max(...segments.flatMap((s) => [s.inBore_m, s.outBore_m]));
  const points: { x: number; d: number }[] = [];
  let from = 0;
  for (const s of segments) {
    points.push({ x: from, d: s.inBore_m }, { x: from + s.length_m, d: s.outBore_m });
    from += s.length_m;
  }
  const X = (x: number): number => 8 + (x / whole) * 584;
  const Y = (d: number, sign: number): number => 34 + (sign * (d / widest) * 52) / 2;
  const boreAt = (share: number): number => {
    const x = share * whole;
    for (let i = 1; i < points.length; i += 1)
      if (x <= points[i]!.x) {
        const [a, b] = [points[i - 1]!, points[i]!];
        return b.x === a.x ? b.d : a.d + ((b.d - a.d) * (x - a.x)) / (b.x - a.x);
      }
    return points.at(-1)!.d;
  };
  const cells = 60;
  const open = result.curves.inletArea_m2[row]! > 0;
  return (
    <svg viewBox="0 0 600 68" width="100%" style={{ maxHeight: 90, display: 'block' }} aria-hidden>
      {Array.from({ length: cells }, (_, i) => {
        const share = (i + 0.5) / cells;
        const t = (pressureAt(result, row, share) - mean_Pa) / swing_Pa;
        const d = boreAt(share);
        return (
          <rect
            key={i}
            x={X((i * whole) / cells)}
            width={584 / cells + 0.6}
            y={Y(d, -1)}
            height={Y(d, 1) - Y(d, -1)}
            fill={`rgb(${shade(t).map(Math.round).join(' ')})`}
          />
        );
      })}
      {[-1, 1].map((sign) => (
        <polyline
          key={sign}
          points={points.map((p) => `${X(p.x)},${Y(p.d, sign)}`).join(' ')}
          fill="none"
          stroke={palette.ink}
          strokeWidth={1.8}
        />
      ))}
      <line
        x1={592}
        x2={592}
        y1={Y(points.at(-1)!.d, -1)}
        y2={Y(points.at(-1)!.d, 1)}
        stroke={palette.ink}
        strokeWidth={open ? 1 : 4}
        strokeDasharray={open ? '3 5' : undefined}
      />
    </svg>
  );
}

/** One speed's waves: pressure along a runner over the cycle, the same on the drawing at one angle, and what ends and throttle see. */
export function WavePicture({
  result,
  segments,
  ambient_Pa,
  hasPlenum,
}: {
  result: WaveResult;
  segments: readonly Segment[];
  ambient_Pa: number;
  hasPlenum: boolean;
}) {
  const { pack, palette } = usePrefs();
  const canvas = useRef<HTMLCanvasElement>(null);
  const [row, setRow] = useState(Math.round((540 / CYCLE_deg) * ROWS));
  const [plays, setPlays] = useState(false);
  /** Where a cycle is played on from. */
  const standing = useRef(row);
  const { swing_Pa, mean_Pa } = useMemo(() => {
    const mean = hasPlenum ? result.plenum_Pa : ambient_Pa;
    let most = 0;
    for (const p of result.picture.p_Pa) most = Math.max(most, Math.abs(p - mean));
    return { swing_Pa: Math.max(most, 500), mean_Pa: mean };
  }, [result, ambient_Pa, hasPlenum]);
  useEffect(() => {
    if (!canvas.current) return;
    const shade = shader(palette.series[3]!, palette.sheet, palette.series[1]!);
    paint(canvas.current, ROWS, DEPTH, (x, y) => (pressureAt(result, x, (y + 0.5) / DEPTH) - mean_Pa) / swing_Pa, shade);
  }, [result, palette, swing_Pa, mean_Pa]);
  useEffect(() => {
    if (!plays) return;
    let frame = 0;
    let before: number | null = null;
    let at = standing.current;
    const step = (now: number): void => {
      if (before !== null) at = (at + ((now - before) / 1000 / PLAY_s) * ROWS) % ROWS;
      before = now;
      standing.current = Math.floor(at);
      setRow(standing.current);
      frame = requestAnimationFrame(step);
    };
    frame = requestAnimationFrame(step);
    return () => cancelAnimationFrame(frame);
  }, [plays]);
  const open = openStretch(result.curves.inletArea_m2);
  const angle = (row / ROWS) * CYCLE_deg;
  const left = (deg: number): string => `${(100 * deg) / CYCLE_deg}%`;
  const swing = formatQuantity(swing_Pa, 'plenum', pack);
  return (
    <section>
      <Heading>
        {msg.wavesAt} {formatNumber(result.rpm, 0)} {msg.rpm}
      </Heading>
      <div className={styles['picture']}>
        <span className={styles['side']} style={{ top: 0 }}>
          {msg.mouth}
        </span>
        <span className={styles['side']} style={{ top: 202 }}>
          {msg.valve}
        </span>
        <div className={styles['plot']}>
          <canvas ref={canvas} role="img" aria-label={msg.pictureAlt} />
          <i className={styles['cursor']} style={{ left: left(angle) }} />
        </div>
        <div className={styles['open']}>
          {open && (
            <>
              <i style={{ left: left(open[0]), width: left(open[1] - open[0]) }} />
              <span style={{ right: `calc(${100 - (100 * open[0]) / CYCLE_deg}% + 6px)` }}>{msg.inletOpen}</span>
            </>
          )}
        </div>
        <div className={styles['angles']} aria-hidden>
          {TICKS.map((t) => (
            <span key={t} data-between={t % 180 !== 0} style={{ left: left(t) }}>
              {TICK_WORDS[t] ?? t}
            </span>
          ))}
        </div>
      </div>
      <p className={styles['legend']}>
        −{swing}
        <i
          className={styles['ramp']}
          style={{ background: `linear-gradient(to right, ${palette.series[3]}, ${palette.sheet}, ${palette.series[1]})` }}
        />
        +{swing} {hasPlenum ? 'against the plenum’s mean' : 'against the air outside'}
      </p>
      <div className={styles['tools']}>
        <Button
          size="small"
          icon={plays ? <PauseOutlined aria-hidden /> : <CaretRightOutlined aria-hidden />}
          onClick={() => setPlays((p) => !p)}
        >
          {plays ? msg.pause : msg.play}
        </Button>
        <input
          type="range"
          aria-label={msg.crankAngle}
          aria-valuetext={`${Math.round(angle)}° after firing top dead centre`}
          min={0}
          max={ROWS - 1}
          value={row}
          onChange={(e) => {
            setPlays(false);
            standing.current = Number(e.target.value);
            setRow(standing.current);
          }}
        />
        <span className="quiet">
          {Math.round(angle)}° · {msg.atTheValve} {formatQuantity(result.curves.valve_Pa[row]!, 'plenum', pack)}
        </span>
      </div>
      <Drawing result={result} segments={segments} row={row} swing_Pa={swing_Pa} mean_Pa={mean_Pa} />
      <Traces result={result} hasPlenum={hasPlenum} />
    </section>
  );
}

/** What valve, mouth or plenum, and throttle see over the cycle. Drawn once a speed, not at each angle that is looked at. */
const Traces = memo(function Traces({ result, hasPlenum }: { result: WaveResult; hasPlenum: boolean }) {
  const { pack, palette } = usePrefs();
  const flow = shownUnit('massFlow', pack).unit;
  const angles = useMemo(() => Array.from({ length: ROWS + 1 }, (_, i) => (i / ROWS) * CYCLE_deg), []);
  const pressures = useMemo<ChartSpec>(() => {
    const { unit } = shownUnit('plenum', pack);
    const shown = (curve: Float64Array): number[] => [...curve].map((Pa) => fromSI(Pa, unit));
    const open = openStretch(result.curves.inletArea_m2);
    const other = hasPlenum
      ? { id: 'plenum', label: msg.inThePlenum, y: shown(result.curves.plenum_Pa) }
      : { id: 'mouth', label: msg.atTheMouth, y: shown(result.curves.mouth_Pa) };
    return {
      lines: [
        { id: 'valve', label: msg.atTheValve, x: angles, y: shown(result.curves.valve_Pa), color: palette.series[0]!, width: 2.2 },
        { ...other, x: angles, color: palette.series[2]!, dash: 'longdash' },
      ],
      words: open ? [{ x: open[1], text: 'inlet closes', color: palette.quiet, anchor: 'right', low: true }] : [],
      xRange: [0, CYCLE_deg],
      xTitle: msg.crankAxis,
      yTitle: `pressure, ${unit.label}`,
      decimals: 1,
    };
  }, [result, palette, pack, hasPlenum, angles]);
  const flows = useMemo<ChartSpec>(
    () => ({
      lines: [
        {
          id: 'flow',
          label: hasPlenum ? 'throttle' : msg.mouth,
          x: angles,
          y: [...result.curves.throttle_kgps].map((v) => fromSI(v, flow)),
          color: palette.ink,
          width: 2,
        },
      ],
      xRange: [0, CYCLE_deg],
      xTitle: msg.crankAxis,
      yTitle: `air, ${flow.label}`,
      yZeroLine: true,
      decimals: 0,
    }),
    [result, palette, flow, hasPlenum, angles],
  );
  return (
    <>
      <Chart spec={pressures} height={210} name="pressures" alt={msg.pressures} />
      <Chart spec={flows} height={170} name="flow" alt={hasPlenum ? msg.flowAtThrottle : msg.flowAtMouth} />
    </>
  );
});
