'use client';

import { Button, Checkbox } from 'antd';
import { useRef, useState } from 'react';
import { boltDiameter } from '@/core/documents/kinds';
import type { UnitDoc } from '@/core/documents/unit';
import { flangeHoles, type Point } from '@/core/shape/flange';
import { shownUnit } from '@/core/units/measures';
import { formatQuantity } from '@/core/units/quantity';
import { usePrefs } from '@/ui/theme/prefs';
import { faceScene, H, MID_X, MID_Y, openingPath, platePath, reachOf, W, type FaceScene, type FittedCar } from './face-geometry';
import { faceLabels, leaderRows, type Leader } from './face-labels';
import { LAYERS, LAYER_WORDS, type Layer } from './face-layers';
import styles from './fit.module.css';
import { msg } from './messages';
import { useTurning, type Clocking, type Turning } from './use-turning';

type On = (layer: Layer) => boolean;

interface BarProps {
  readonly on: On;
  readonly layers: readonly Layer[];
  readonly show: (layers: readonly Layer[]) => void;
  readonly clocking: Clocking;
  readonly measured: boolean;
  readonly turning: Turning;
}

/** What is shown, and the same as the hands do on the drawing by keys and buttons. */
function Bar({ on, layers, show, clocking, measured, turning }: BarProps) {
  const { pack } = usePrefs();
  const degrees = formatQuantity(turning.clock, 'angle', pack);
  const fixed = clocking === 'as it is';
  const words = !measured
    ? 'flange not measured'
    : fixed
      ? 'bolts on one way only'
      : `turned ${degrees}: drag the throttle, turn it with two fingers, or arrow keys here`;
  return (
    <div className={styles['layers']} role="group" aria-label={msg.layers}>
      {layers.map((l) => (
        <Checkbox key={l} checked={on(l)} onChange={(e) => show(LAYERS.filter((x) => (x === l ? e.target.checked : on(x))))}>
          {LAYER_WORDS[l]}
        </Checkbox>
      ))}
      <span
        role="slider"
        tabIndex={fixed ? -1 : 0}
        aria-label={msg.clockingOfTheThrottle}
        aria-disabled={fixed}
        aria-valuemin={-180}
        aria-valuemax={180}
        aria-valuenow={Math.round((turning.clock * 180) / Math.PI)}
        aria-valuetext={degrees}
        className={styles['clock']}
        onKeyDown={turning.onKey}
      >
        {words}
      </span>
      <span className={`${styles['by']} no-print`}>
        {!fixed && (
          <>
            <Button aria-label={msg.turnItLeft} onClick={() => turning.turn(1)}>
              ↺
            </Button>
            <Button aria-label={msg.turnItRight} onClick={() => turning.turn(-1)}>
              ↻
            </Button>
          </>
        )}
        <Button aria-label={msg.nearer} disabled={!turning.nearer} onClick={turning.nearer ?? undefined}>
          +
        </Button>
        <Button aria-label={msg.farther} disabled={!turning.farther} onClick={turning.farther ?? undefined}>
          −
        </Button>
      </span>
    </div>
  );
}

/** The manifold's plate and holes. */
function ManifoldFace({ scene: { base, k, X, Y } }: { scene: FaceScene }) {
  const { palette } = usePrefs();
  if (!base) return null;
  const plate = platePath(base, k);
  const cross = (h: Point) => <path d={`M${X(h) - 5} ${Y(h)} h10 M${X(h)} ${Y(h) - 5} v10`} stroke={palette.ink} strokeWidth="1" />;
  return (
    <>
      {plate && <path d={plate} fill="none" stroke={palette.ink} strokeWidth="1.4" strokeLinejoin="round" />}
      {flangeHoles(base).map((h, i) => (
        <g key={i}>
          <circle cx={X(h)} cy={Y(h)} r={(base.hole_m / 2) * k} fill="none" stroke={palette.ink} strokeWidth="1.6" />
          {cross(h)}
        </g>
      ))}
    </>
  );
}

function AdapterFace({ scene: { adapter, top, base, opening, clock_rad, k, X, Y } }: { scene: FaceScene }) {
  const { palette } = usePrefs();
  if (!adapter || !top || !base) return null;
  return (
    <g fill="none" stroke={palette.series[1]} strokeWidth="1.4">
      <path d={openingPath(opening, clock_rad, k)} strokeDasharray="8 4" />
      {flangeHoles(top).map((h, i) => (
        <circle key={i} cx={X(h)} cy={Y(h)} r={(boltDiameter(adapter.bolt) / 2) * k} strokeDasharray="4 3" />
      ))}
    </g>
  );
}

interface UnitFaceProps {
  readonly scene: FaceScene;
  readonly shaft_m: number;
  readonly color: string;
  readonly turns: boolean;
  readonly onGrip: Turning['onGrip'];
}

/** The throttle: what a hand turns. */
function UnitFace({ scene: { top, opening, clock_rad, k, X, Y }, shaft_m, color, turns, onGrip }: UnitFaceProps) {
  const plate = top && platePath(top, k);
  return (
    <g data-testid="unit-layer" className={styles['turns']} data-turns={turns && top !== null} onPointerDown={onGrip}>
      {plate && <path d={plate} fill={color} fillOpacity="0.05" stroke={color} strokeWidth="1.6" strokeLinejoin="round" />}
      <path d={openingPath(opening, clock_rad, k)} fill="transparent" stroke={color} strokeWidth="2.4" />
      {opening.shape !== 'twin' && (
        <rect
          x={MID_X - reachOf(opening) * k}
          y={MID_Y - (shaft_m / 2) * k}
          width={2 * reachOf(opening) * k}
          height={shaft_m * k}
          fill={color}
          opacity="0.25"
          transform={`rotate(${(-clock_rad * 180) / Math.PI} ${MID_X} ${MID_Y})`}
        />
      )}
      {top &&
        flangeHoles(top).map((h, i) => (
          <circle key={i} cx={X(h)} cy={Y(h)} r={(top.hole_m / 2) * k} fill="none" stroke={color} strokeWidth="1.8" />
        ))}
    </g>
  );
}

/** From each hole to where its bolt is, where they do not meet. */
function HolesApart({ scene: { match, base, top, play, X, Y } }: { scene: FaceScene }) {
  const { palette } = usePrefs();
  if (!match || !base || !top) return null;
  const bolts = flangeHoles(base);
  return (
    <>
      {flangeHoles(top).map((h, i) => {
        const q = bolts[match.onto[i]!]!;
        return match.off_m[i]! > play ? (
          <path key={i} d={`M${X(h)} ${Y(h)} L${X(q)} ${Y(q)}`} stroke={palette.danger} strokeWidth="3" />
        ) : null;
      })}
    </>
  );
}

/** Where lines to the names beside the drawing end, px; and how long one is to a name left of its point. */
const COLUMN_px = 546;
const LEAD_px = 14;

/** What is written stays on the sheet when the drawing comes nearer: beside it, in its own size, of what is still seen. */
function Labels({ labels, turning }: { labels: readonly Leader[]; turning: Turning }) {
  const seen = labels.map((l) => ({ ...l, ...turning.onSheet(l) })).filter((l) => l.x >= 0 && l.x <= W && l.y >= 0 && l.y <= H);
  return (
    <g transform={turning.sheet} className={`${styles['beside']} ${styles['names']}`}>
      {leaderRows(seen).map((l) => {
        // Written in its column; or left of its point, where the drawing has come so near that the point lies beyond.
        const beyond = l.x > COLUMN_px;
        const end = beyond ? l.x - LEAD_px : COLUMN_px;
        return (
          <g key={l.text}>
            <path d={`M${l.x} ${l.y} L${end} ${l.row}`} stroke={l.color} strokeWidth="1" fill="none" />
            <text
              x={beyond ? end - 6 : end + 6}
              y={l.row + 4}
              textAnchor={beyond ? 'end' : 'start'}
              fontSize="15"
              fontFamily="Barlow Condensed, sans-serif"
              fontWeight="600"
              fill={l.color}
            >
              {l.text}
            </text>
          </g>
        );
      })}
    </g>
  );
}

/** A bar of a round length, to the drawing's scale. */
function ScaleBar({ k, turning }: { k: number; turning: Turning }) {
  const { pack, palette } = usePrefs();
  const barMm = shownUnit('bore', pack).unit.id === 'in' ? 25.4 : 20;
  const bar = (barMm / 1000) * k * turning.scale;
  return (
    <g transform={turning.sheet} className={styles['beside']}>
      <path d={`M${MID_X - bar / 2} ${H - 34} v7 h${bar} v-7`} fill="none" stroke={palette.ink} strokeWidth="1.4" />
      <text x={MID_X} y={H - 4} textAnchor="middle" fontSize="13" fill={palette.quiet}>
        {formatQuantity(barMm / 1000, 'bore', pack, barMm === 20 ? 0 : 1)}
        {msg.drawnToScale}
      </text>
    </g>
  );
}

function Patterns({ scene: { narrow, k } }: { scene: FaceScene }) {
  const { palette } = usePrefs();
  return (
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
  );
}

/** Manifold, gasket, adapter and unit face on and to scale; the throttle turned by dragging it or with the arrow keys. */
export function FaceDrawing({
  doc,
  unit,
  color,
  onClock,
}: {
  doc: FittedCar;
  unit: UnitDoc;
  color: string;
  onClock: (clock_rad: number) => void;
}) {
  const { pack, palette } = usePrefs();
  const [layers, setLayers] = useState<readonly Layer[]>(LAYERS);
  const svg = useRef<SVGSVGElement>(null);
  const clocking = unit.flange?.clocking ?? 'as it is';
  const turning = useTurning(svg, { clock_rad: doc.fit.mounting.clock_rad, clocking, onClock });
  const scene = faceScene(doc, unit, turning.clock);
  const { opening, hole, seal, adapter, clock_rad, k } = scene;
  const on: On = (l) => layers.includes(l);
  const labels = faceLabels(scene, { unit, color, pack, palette, on, height: turning.height });
  return (
    <figure className={styles['figure']}>
      <Bar
        on={on}
        layers={LAYERS.filter((l) => l !== 'adapter' || adapter)}
        show={setLayers}
        clocking={clocking}
        measured={unit.flange !== null}
        turning={turning}
      />
      <svg ref={svg} viewBox={turning.box} className={styles['face']} role="img" aria-label={labels.map((l) => l.text).join(', ')}>
        <Patterns scene={scene} />
        {on('manifold') && <ManifoldFace scene={scene} />}
        {on('lip') && <path d={openingPath(opening, clock_rad, k)} fill="url(#lip-hatch)" mask="url(#into-opening)" />}
        {on('manifold') && <path d={openingPath(hole, 0, k)} fill="none" stroke={palette.ink} strokeWidth="2.4" />}
        {on('gasket') && <path d={openingPath(seal, 0, k)} fill="none" stroke={palette.quiet} strokeWidth="1.4" strokeDasharray="3 4" />}
        {on('adapter') && <AdapterFace scene={scene} />}
        {on('unit') && (
          <UnitFace scene={scene} shaft_m={unit.throttle.shaft_m} color={color} turns={clocking !== 'as it is'} onGrip={turning.onGrip} />
        )}
        {on('unit') && on('manifold') && <HolesApart scene={scene} />}
        <path d={`M${MID_X - 10} ${MID_Y} h20 M${MID_X} ${MID_Y - 10} v20`} className={styles['dim']} />
        <Labels labels={labels} turning={turning} />
        <ScaleBar k={k} turning={turning} />
      </svg>
      {/* On a phone the drawing is too small for words: they stand under it. */}
      <ul className={styles['below']} aria-hidden>
        {labels.map((l) => (
          <li key={l.text} style={{ borderColor: l.color }}>
            {l.text}
          </li>
        ))}
      </ul>
    </figure>
  );
}
