'use client';

import { Button, Checkbox } from 'antd';
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { gasketOpening, manifoldFace, manifoldOpening, openingOf } from '@/core/documents/faces';
import type { JobDoc } from '@/core/documents/job';
import type { UnitDoc } from '@/core/documents/unit';
import { clockedFace, lipOf } from '@/core/fit/facts';
import { flangeHoles, fromOpening, thinnestWall, type Flange, type Opening, type Point } from '@/core/shape/flange';
import { boltPlay, matchPatterns } from '@/core/fit/pattern-match';
import { boltDiameter } from '@/core/documents/kinds';
import { shownUnit } from '@/core/units/measures';
import { formatQuantity } from '@/core/units/quantity';
import { usePrefs } from '@/ui/theme/prefs';
import { useFingers } from '@/ui/use-fingers';
import styles from './fit.module.css';
import { msg } from './messages';

const W = 760;
const H = 500;
const MID_X = 300;
const MID_Y = 238;
const ROOM = 208;
const QUARTER = Math.PI / 2;

export const LAYERS = ['manifold', 'gasket', 'adapter', 'unit', 'lip'] as const;
export type Layer = (typeof LAYERS)[number];
const LAYER_WORDS: Readonly<Record<Layer, string>> = {
  manifold: 'manifold',
  gasket: 'gasket',
  adapter: 'adapter plate',
  unit: 'throttle',
  lip: 'step',
};

/** Edge of an opening as an SVG path about the middle, to scale `k` px a metre, y up. */
export function openingPath(o: Opening, clock: number, k: number, at: Point = { x_m: 0, y_m: 0 }): string {
  const X = (x: number): number => MID_X + (x + at.x_m) * k;
  const Y = (y: number): number => MID_Y - (y + at.y_m) * k;
  const ring = (x: number, y: number, r: number): string => {
    const R = r * k;
    return `M${X(x) - R} ${Y(y)} a${R} ${R} 0 1 0 ${2 * R} 0 a${R} ${R} 0 1 0 ${-2 * R} 0Z`;
  };
  if (o.shape === 'round') return ring(0, 0, o.bore_m / 2);
  const half = (o.shape === 'twin' ? o.spacing_m : Math.max(0, o.width_m - o.height_m)) / 2;
  const [c, s] = [Math.cos(clock), Math.sin(clock)];
  if (o.shape === 'twin') return [1, -1].map((e) => ring(e * half * c, e * half * s, o.bore_m / 2)).join(' ');
  const r = o.height_m / 2;
  const p = (e: number, side: number): string => `${X(e * half * c - side * r * s)} ${Y(e * half * s + side * r * c)}`;
  const R = r * k;
  return `M${p(1, 1)} L${p(-1, 1)} A${R} ${R} 0 0 0 ${p(-1, -1)} L${p(1, -1)} A${R} ${R} 0 0 0 ${p(1, 1)}Z`;
}

/** Outline of a flange's plate, turned with it; null: not measured. */
function platePath(f: Flange, k: number): string | null {
  if (!f.plate) return null;
  const clock = f.clock_rad ?? 0;
  const { x_m, y_m } = f.offset ?? { x_m: 0, y_m: 0 };
  const corner = (sx: number, sy: number): string => {
    const x = x_m + (sx * f.plate!.width_m) / 2;
    const y = y_m + (sy * f.plate!.height_m) / 2;
    return `${MID_X + (x * Math.cos(clock) - y * Math.sin(clock)) * k} ${MID_Y - (x * Math.sin(clock) + y * Math.cos(clock)) * k}`;
  };
  return `M${corner(1, 1)} L${corner(-1, 1)} L${corner(-1, -1)} L${corner(1, -1)}Z`;
}

const reachOf = (o: Opening): number => (o.shape === 'round' ? o.bore_m : o.shape === 'twin' ? o.bore_m + o.spacing_m : o.width_m) / 2;
/** How far a flange reaches from the bore’s middle, however it is turned if it turns freely. */
function faceReach(f: Flange | null, free: boolean): number {
  if (!f) return 0;
  const off = Math.hypot(f.offset?.x_m ?? 0, f.offset?.y_m ?? 0);
  const { width_m, height_m } = f.plate ?? { width_m: 0, height_m: 0 };
  const plate = off + (free ? Math.hypot(width_m, height_m) : Math.max(width_m, height_m)) / 2;
  const holes = flangeHoles(f).map((h) => (free ? Math.hypot(h.x_m, h.y_m) : Math.max(Math.abs(h.x_m), Math.abs(h.y_m))) + f.hole_m);
  return Math.max(plate, ...holes);
}

/** Snaps a turn to what the housing allows. */
function snapped(turn: number, clocking: 'as it is' | 'quarter turns' | 'free'): number {
  const round = clocking === 'quarter turns' ? Math.round(turn / QUARTER) * QUARTER : Math.round(turn / (Math.PI / 360)) * (Math.PI / 360);
  const whole = 2 * Math.PI;
  const within = ((((round + Math.PI) % whole) + whole) % whole) - Math.PI;
  return clocking === 'as it is' ? 0 : Math.abs(within + Math.PI) < 1e-9 ? Math.PI : within;
}

/** An opening's sizes in words. */
/** A name that leaves room for the size behind it, beside the drawing. */
const LONGEST_NAME = 18;
const shortly = (name: string): string => (name.length > LONGEST_NAME ? `${name.slice(0, LONGEST_NAME - 1).trimEnd()}…` : name);

const openingSize = (o: Opening, size: (m: number) => string): string =>
  o.shape === 'oval' ? `${size(o.width_m)} × ${size(o.height_m)}` : o.shape === 'twin' ? `2 × ${size(o.bore_m)}` : size(o.bore_m);

interface Leader {
  readonly text: string;
  readonly color: string;
  /** Point on the drawing, px. */
  readonly x: number;
  readonly y: number;
}

/** Manifold, gasket, adapter and unit face on and to scale; the throttle turned by dragging it or with the arrow keys. */
export function FaceDrawing({
  doc,
  unit,
  color,
  onClock,
}: {
  doc: Pick<JobDoc, 'car' | 'fit' | 'pick'>;
  unit: UnitDoc;
  color: string;
  onClock: (clock_rad: number) => void;
}) {
  const { pack, palette } = usePrefs();
  const [layers, setLayers] = useState<readonly Layer[]>(LAYERS);
  const [turning, setTurning] = useState<number | null>(null);
  // Where the hand is now: it may let go before what it did last has been drawn.
  const turned = useRef<number | null>(null);
  const turnTo = (clock_rad: number | null): void => {
    turned.current = clock_rad;
    setTurning(clock_rad);
  };
  const grip = useRef<{ from: number; start: number } | null>(null);
  const svg = useRef<SVGSVGElement>(null);
  const clocking = unit.flange?.clocking ?? 'as it is';
  const clock = turning ?? doc.fit.mounting.clock_rad;
  const { stock } = doc.car;
  const base = manifoldFace(stock);
  const top = clockedFace(unit, clock);
  const opening = openingOf(unit.throttle);
  const { adapter } = doc.fit.mounting;
  const hole = manifoldOpening(stock);
  const seal = gasketOpening(stock);
  const narrow = stock.gasketOpening_m < stock.manifoldOpening_m ? seal : hole;
  const reach = Math.max(reachOf(opening), reachOf(hole), reachOf(seal), faceReach(base, false), faceReach(top, clocking === 'free'));
  const k = ROOM / reach;
  const X = (p: Point): number => MID_X + p.x_m * k;
  const Y = (p: Point): number => MID_Y - p.y_m * k;
  const on = (l: Layer): boolean => layers.includes(l);
  const size = (m: number): string => formatQuantity(m, 'bore', pack);
  const lip = lipOf(doc, unit, clock);
  const match = base && top && !adapter ? matchPatterns(top, base, 'as it is') : null;
  const play = unit.flange && stock.flange ? boltPlay(unit.flange.hole_m, boltDiameter(stock.flange.bolt)) : 0;

  const [view, setView] = useState(WHOLE);
  const before = useRef<{ view: View; clock: number } | null>(null);
  const seen = { w: W / view.scale, h: H / view.scale };
  const angleAt = (e: PointerEvent): number => {
    const box = svg.current!.getBoundingClientRect();
    const x = view.x + ((e.clientX - box.left) / box.width) * seen.w - MID_X;
    const y = MID_Y - (view.y + ((e.clientY - box.top) / box.height) * seen.h);
    return Math.atan2(y, x);
  };
  const turnBy = (by_rad: number): void => onClock(snapped(clock + by_rad, clocking));
  useFingers(svg, {
    onTurn: (by_rad) => {
      before.current ??= { view, clock };
      if (clocking === 'as it is') return;
      // A hand that only draws near also turns a little.
      turnTo(Math.abs(by_rad) < IDLE_TURN_rad ? before.current.clock : snapped(before.current.clock + by_rad, clocking));
    },
    onPinch: (by, at) => {
      before.current ??= { view, clock };
      setView(zoomed(before.current.view, by, at));
    },
    onEnd: () => {
      if (turned.current !== null && turned.current !== before.current?.clock) onClock(turned.current);
      before.current = null;
      turnTo(null);
    },
  });
  const start = (e: PointerEvent<SVGElement>): void => {
    // One finger scrolls the page; two turn the drawing.
    if (clocking === 'as it is' || e.pointerType === 'touch') return;
    e.currentTarget.setPointerCapture(e.pointerId);
    grip.current = { from: angleAt(e), start: doc.fit.mounting.clock_rad };
    turnTo(doc.fit.mounting.clock_rad);
  };
  const move = (e: PointerEvent): void => {
    if (grip.current) turnTo(snapped(grip.current.start + angleAt(e) - grip.current.from, clocking));
  };
  const end = (): void => {
    // A finger's going up is the fingers' own affair.
    if (!grip.current) return;
    if (turned.current !== null) onClock(turned.current);
    grip.current = null;
    turnTo(null);
  };
  const key = (e: KeyboardEvent): void => {
    const step = clocking === 'quarter turns' ? QUARTER : ((e.shiftKey ? 15 : 1) * Math.PI) / 180;
    const way = { ArrowLeft: 1, ArrowUp: 1, ArrowRight: -1, ArrowDown: -1 }[e.key];
    if (way === undefined || clocking === 'as it is') return;
    e.preventDefault();
    onClock(snapped(clock + way * step, clocking));
  };

  const onEdge = (o: Opening, y: number): { x: number; y: number } => {
    const r = reachOf(o) * k;
    const a = Math.asin(Math.max(-0.97, Math.min(0.97, (y - MID_Y) / r)));
    return { x: MID_X + Math.cos(a) * r, y: MID_Y + Math.sin(a) * r };
  };
  const openings: (Leader & { on: boolean })[] = [
    {
      on: on('unit'),
      text: `${shortly(unit.name)} bore ${openingSize(opening, size)}`,
      color,
      ...onEdge(opening, 70),
    },
    {
      on: on('manifold'),
      text: `manifold bore ${openingSize(hole, size)}`,
      color: palette.ink,
      ...onEdge(hole, 104),
    },
    {
      on: on('gasket'),
      text: `gasket bore ${openingSize(seal, size)}`,
      color: palette.quiet,
      ...onEdge(seal, 138),
    },
  ];
  const wall = top ? thinnestWall(top) : null;
  const nearest = top && flangeHoles(top).reduce((a, h) => (fromOpening(top, h) < fromOpening(top, a) ? h : a));
  const notes: (Leader & { on: boolean })[] = [];
  if (lip && lip.lip_m2 > 1e-6) {
    const at = onEdge({ shape: 'round', bore_m: reachOf(narrow) + reachOf(opening) }, 330);
    notes.push({ on: on('lip'), text: `step ${formatQuantity(lip.lip_m2, 'area', pack)} facing the flow`, color: palette.stock, ...at });
  }
  if (match && base && top) {
    const i = match.off_m.indexOf(match.worst_m);
    const h = flangeHoles(top)[i]!;
    notes.push({
      on: on('unit') && on('manifold'),
      text:
        match.worst_m > play ? `holes ${size(match.worst_m)} off` : `holes within ${formatQuantity(Math.max(play, 0), 'fineLength', pack)}`,
      color: match.worst_m > play ? palette.danger : palette.quiet,
      x: X(h),
      y: Y(h),
    });
  }
  if (nearest && wall !== null)
    notes.push({
      on: on('unit'),
      text: `thinnest wall ${size(wall)}`,
      color,
      x: X(nearest) * 0.92 + MID_X * 0.08,
      y: Y(nearest) * 0.92 + MID_Y * 0.08,
    });
  const shown = [...openings, ...notes].filter((l) => l.on);
  const barMm = shownUnit('bore', pack).unit.id === 'in' ? 25.4 : 20;
  const bar = (barMm / 1000) * k;
  const cross = (h: Point, c: string) => <path d={`M${X(h) - 5} ${Y(h)} h10 M${X(h)} ${Y(h) - 5} v10`} stroke={c} strokeWidth="1" />;
  const degrees = formatQuantity(clock, 'angle', pack);
  return (
    <figure className={styles['figure']}>
      <div className={styles['layers']} role="group" aria-label={msg.layers}>
        {LAYERS.filter((l) => l !== 'adapter' || adapter).map((l) => (
          <Checkbox key={l} checked={on(l)} onChange={(e) => setLayers(e.target.checked ? [...layers, l] : layers.filter((x) => x !== l))}>
            {LAYER_WORDS[l]}
          </Checkbox>
        ))}
        <span
          role="slider"
          tabIndex={clocking === 'as it is' ? -1 : 0}
          aria-label={msg.clockingOfTheThrottle}
          aria-disabled={clocking === 'as it is'}
          aria-valuemin={-180}
          aria-valuemax={180}
          aria-valuenow={Math.round((clock * 180) / Math.PI)}
          aria-valuetext={degrees}
          className={styles['clock']}
          onKeyDown={key}
        >
          {unit.flange === null
            ? 'flange not measured'
            : clocking === 'as it is'
              ? 'bolts on one way only'
              : `turned ${degrees}: drag the throttle, turn it with two fingers, or arrow keys here`}
        </span>
        <span className={`${styles['by']} no-print`}>
          {clocking !== 'as it is' && (
            <>
              <Button aria-label={msg.turnItLeft} onClick={() => turnBy(clocking === 'quarter turns' ? QUARTER : STEP_rad)}>
                ↺
              </Button>
              <Button aria-label={msg.turnItRight} onClick={() => turnBy(clocking === 'quarter turns' ? -QUARTER : -STEP_rad)}>
                ↻
              </Button>
            </>
          )}
          <Button aria-label={msg.nearer} disabled={view.scale >= MOST_SCALE} onClick={() => setView(zoomed(view, ZOOM, MIDDLE))}>
            +
          </Button>
          <Button aria-label={msg.farther} disabled={view.scale <= 1} onClick={() => setView(zoomed(view, 1 / ZOOM, MIDDLE))}>
            −
          </Button>
        </span>
      </div>
      <svg
        ref={svg}
        viewBox={`${view.x} ${view.y} ${seen.w} ${seen.h}`}
        className={styles['face']}
        role="img"
        aria-label={shown.map((l) => l.text).join(', ')}
      >
        <defs>
          <pattern id="lip-hatch" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <rect width="7" height="7" fill={palette.stock} opacity="0.12" />
            <path d="M0 0V7" stroke={palette.stock} strokeWidth="2" opacity="0.6" />
          </pattern>
          <mask id="into-opening">
            <rect width={W} height={H} fill="white" />
            <path d={openingPath(narrow, 0, k)} fill="black" />
          </mask>
        </defs>
        {on('manifold') && base && (
          <>
            {platePath(base, k) && (
              <path d={platePath(base, k)!} fill="none" stroke={palette.ink} strokeWidth="1.4" strokeLinejoin="round" />
            )}
            {flangeHoles(base).map((h, i) => (
              <g key={i}>
                <circle cx={X(h)} cy={Y(h)} r={(base.hole_m / 2) * k} fill="none" stroke={palette.ink} strokeWidth="1.6" />
                {cross(h, palette.ink)}
              </g>
            ))}
          </>
        )}
        {on('lip') && <path d={openingPath(opening, clock, k)} fill="url(#lip-hatch)" mask="url(#into-opening)" />}
        {on('manifold') && <path d={openingPath(hole, 0, k)} fill="none" stroke={palette.ink} strokeWidth="2.4" />}
        {on('gasket') && <path d={openingPath(seal, 0, k)} fill="none" stroke={palette.quiet} strokeWidth="1.4" strokeDasharray="3 4" />}
        {on('adapter') && adapter && top && base && (
          <g fill="none" stroke={palette.series[1]} strokeWidth="1.4">
            <path d={openingPath(opening, clock, k)} strokeDasharray="8 4" />
            {flangeHoles(top).map((h, i) => (
              <circle key={i} cx={X(h)} cy={Y(h)} r={(boltDiameter(adapter.bolt) / 2) * k} strokeDasharray="4 3" />
            ))}
          </g>
        )}
        {on('unit') && (
          <g
            data-testid="unit-layer"
            className={styles['turns']}
            data-turns={clocking !== 'as it is' && top !== null}
            onPointerDown={start}
            onPointerMove={move}
            onPointerUp={end}
            onPointerCancel={end}
          >
            {top && platePath(top, k) && (
              <path d={platePath(top, k)!} fill={color} fillOpacity="0.05" stroke={color} strokeWidth="1.6" strokeLinejoin="round" />
            )}
            <path d={openingPath(opening, clock, k)} fill="transparent" stroke={color} strokeWidth="2.4" />
            {opening.shape !== 'twin' && (
              <rect
                x={MID_X - reachOf(opening) * k}
                y={MID_Y - (unit.throttle.shaft_m / 2) * k}
                width={2 * reachOf(opening) * k}
                height={unit.throttle.shaft_m * k}
                fill={color}
                opacity="0.25"
                transform={`rotate(${(-clock * 180) / Math.PI} ${MID_X} ${MID_Y})`}
              />
            )}
            {top &&
              flangeHoles(top).map((h, i) => (
                <circle key={i} cx={X(h)} cy={Y(h)} r={(top.hole_m / 2) * k} fill="none" stroke={color} strokeWidth="1.8" />
              ))}
          </g>
        )}
        {match &&
          base &&
          top &&
          on('unit') &&
          on('manifold') &&
          flangeHoles(top).map((h, i) => {
            const q = flangeHoles(base)[match.onto[i]!]!;
            return match.off_m[i]! > play ? (
              <path key={i} d={`M${X(h)} ${Y(h)} L${X(q)} ${Y(q)}`} stroke={palette.danger} strokeWidth="3" />
            ) : null;
          })}
        <path d={`M${MID_X - 10} ${MID_Y} h20 M${MID_X} ${MID_Y - 10} v20`} className={styles['dim']} />
        {leaderRows(shown).map((l) => (
          <g key={l.text}>
            <path d={`M${l.x} ${l.y} L${546} ${l.row}`} stroke={l.color} strokeWidth="1" fill="none" />
            <text x="552" y={l.row + 4} fontSize="15" fontFamily="Barlow Condensed, sans-serif" fontWeight="600" fill={l.color}>
              {l.text}
            </text>
          </g>
        ))}
        <path d={`M${MID_X - bar / 2} ${H - 26} v7 h${bar} v-7`} fill="none" stroke={palette.ink} strokeWidth="1.4" />
        <text x={MID_X} y={H - 4} textAnchor="middle" fontSize="13" fill={palette.quiet}>
          {formatQuantity(barMm / 1000, 'bore', pack, barMm === 20 ? 0 : 1)}
          {msg.drawnToScale}
        </text>
      </svg>
    </figure>
  );
}

const ROW_px = 26;

/** What is seen of the drawing: its upper left corner, and how near. */
interface View {
  readonly x: number;
  readonly y: number;
  readonly scale: number;
}
const WHOLE: View = { x: 0, y: 0, scale: 1 };
const MOST_SCALE = 6;
const ZOOM = 1.5;
const STEP_rad = Math.PI / 180;
const IDLE_TURN_rad = (3 * Math.PI) / 180;
/** The middle of the face, in shares of the drawing. */
const MIDDLE = { x: MID_X / W, y: MID_Y / H };

/** A view drawn nearer about a point of it, kept inside the drawing. */
function zoomed(view: View, by: number, at: { readonly x: number; readonly y: number }): View {
  const scale = Math.min(MOST_SCALE, Math.max(1, view.scale * by));
  const inside = (v: number, most: number): number => Math.min(Math.max(0, v), most);
  const x = view.x + at.x * (W / view.scale - W / scale);
  const y = view.y + at.y * (H / view.scale - H / scale);
  return { x: inside(x, W - W / scale), y: inside(y, H - H / scale), scale };
}

/** Labels down the right side in the order of their points, never closer than a line. */
function leaderRows<T extends Leader>(list: readonly T[]): (T & { row: number })[] {
  let last = -Infinity;
  return [...list]
    .sort((a, b) => a.y - b.y)
    .map((l) => {
      last = Math.max(last + ROW_px, Math.min(H - 60, Math.max(30, l.y)));
      return { ...l, row: last };
    });
}
