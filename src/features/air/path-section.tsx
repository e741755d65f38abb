'use client';

import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { fromSI } from '@/core/units/units';
import { coarse, shownUnit, type UnitPack } from '@/core/units/measures';
import { formatNumber, formatQuantity } from '@/core/units/quantity';
import { usePrefs } from '@/ui/theme/prefs';
import { labelLines, lossByPart, pressureLines, type IntakeLadder, type SectionPiece } from './path-geometry';
import { useBoreDrag, useOrderDrag } from './path-drag';
import styles from './air.module.css';
import { msg } from './messages';

const LEFT = 46;
const RIGHT = 76;
const AXIS_Y = 92;
const HEIGHT = 296;
/** Both captions under a short path beside each other. */
const CAPTIONS_PX = 340;
const PRESSURE_TOP = 196;
const PRESSURE_HEIGHT = 78;
const TALLEST_PX = 116;

interface Scale {
  readonly x: (m: number) => number;
  readonly r: (bore_m: number) => number;
}

function useWidth(): [React.RefObject<HTMLDivElement | null>, number] {
  const box = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setWidth(entry!.contentRect.width));
    observer.observe(box.current!);
    return () => observer.disconnect();
  }, []);
  return [box, width];
}

function wall(pieces: readonly SectionPiece[], s: Scale, sign: 1 | -1): string {
  const points: [number, number][] = [];
  for (const p of pieces) points.push([s.x(p.from_m), AXIS_Y + sign * s.r(p.inBore_m)], [s.x(p.to_m), AXIS_Y + sign * s.r(p.outBore_m)]);
  return points.map(([x, y]) => `${x.toFixed(1)},${y.toFixed(1)}`).join(' ');
}

/** What stands in the flow of a part: pleats, a meter's strut, the blade and its shaft, a break in a long pipe. */
function Inside({ piece, s, shaft_m }: { piece: SectionPiece; s: Scale; shaft_m: number }) {
  const x0 = s.x(piece.from_m);
  const x1 = s.x(piece.to_m);
  const r = s.r(piece.inBore_m);
  const mid = (x0 + x1) / 2;
  if (piece.type === 'filter') {
    const n = Math.max(3, Math.round((x1 - x0) / 9));
    const folds = Array.from({ length: n }, (_, i) => x0 + ((i + 0.5) * (x1 - x0)) / n);
    return (
      <>
        {folds.map((x) => (
          <path key={x} d={`M${x - 2} ${AXIS_Y - r + 3} L${x + 3} ${AXIS_Y} L${x - 2} ${AXIS_Y + r - 3}`} className={styles['thin']} />
        ))}
      </>
    );
  }
  if (piece.type === 'compressor') {
    const R = Math.min(30, (x1 - x0) * 0.3);
    const wheel = x0 + (x1 - x0) * 0.32;
    const fins = Array.from({ length: 6 }, (_, i) => x0 + (x1 - x0) * (0.62 + 0.06 * i));
    return (
      <>
        <circle cx={wheel} cy={AXIS_Y} r={R} className={styles['wheel']} />
        {[0, 60, 120, 180, 240, 300].map((a) => (
          <path
            key={a}
            d={`M${wheel} ${AXIS_Y} q${R * 0.5} ${-R * 0.2} ${R * 0.86} ${R * 0.1}`}
            transform={`rotate(${a} ${wheel} ${AXIS_Y})`}
            className={styles['thin']}
          />
        ))}
        {fins.map((x) => (
          <path key={x} d={`M${x} ${AXIS_Y - 34} V${AXIS_Y + 34}`} className={styles['thin']} />
        ))}
      </>
    );
  }
  if (piece.type === 'meter') return <path d={`M${mid} ${AXIS_Y - r} V${AXIS_Y + r * 0.2}`} className={styles['mid']} />;
  if (piece.type === 'throttle') {
    return (
      <>
        <path d={`M${mid - (x1 - x0) * 0.36} ${AXIS_Y} H${mid + (x1 - x0) * 0.36}`} className={styles['blade']} />
        <circle cx={mid} cy={AXIS_Y} r={Math.max(2.5, s.r(shaft_m))} className={styles['shaft']} />
      </>
    );
  }
  if (piece.brokenFrom_m !== null)
    return <path d={`M${mid - 3} ${AXIS_Y - r - 5} l5 ${r * 0.8 + 4} l-8 ${r * 0.4} l5 ${r * 0.8 + 6}`} className={styles['break']} />;
  return null;
}

const NAME_PX = 6.1;
const BORE_PX = 6.6;
const LABEL_AIR_PX = 8;

/** Bores as they stand under a part, without their unit. */
function boresText(piece: SectionPiece, pack: UnitPack): string {
  const { unit } = shownUnit('bore', pack);
  const bore = (d: number): string => formatNumber(fromSI(d, unit), coarse('bore', pack));
  return piece.inBore_m === piece.outBore_m ? bore(piece.inBore_m) : `${bore(piece.inBore_m)}–${bore(piece.outBore_m)}`;
}

export interface PathSectionProps {
  readonly pieces: readonly SectionPiece[];
  readonly ladder: IntakeLadder | null;
  readonly ambient_Pa: number;
  readonly shaft_m: number;
  readonly selected: string | null;
  readonly onSelect: (id: string) => void;
  /** A part was dragged to where another stands. */
  readonly onMove: (id: string, to: number) => void;
  /** A wall was dragged to another bore; null: this part's bore is not dragged. */
  readonly onBore: (id: string) => ((bore_m: number) => void) | null;
  /** Shown in place of the pressure when there is none. */
  readonly children?: ReactNode;
}

/** The intake drawn lengthwise, one scale along and across, with the pressure below ambient falling under it. */
export function PathSection({ pieces, ladder, ambient_Pa, shaft_m, selected, onSelect, onMove, onBore, children }: PathSectionProps) {
  const { pack } = usePrefs();
  const [box, width] = useWidth();
  const total = pieces.at(-1)!.to_m;
  const widest = Math.max(...pieces.map((p) => Math.max(p.inBore_m, p.outBore_m)));
  const fits = Math.min((width - LEFT - RIGHT) / total, TALLEST_PX / widest);
  // While a wall is dragged the scale stands still, or the wall would run from the hand.
  const [held, setHeld] = useState<number | null>(null);
  const perMetre = held ?? fits;
  const order = useOrderDrag(pieces, LEFT, perMetre, onMove);
  const bore = useBoreDrag({ axisY: AXIS_Y, perMetre, hold: (on) => setHeld(on ? fits : null) });
  const s: Scale = useMemo(() => ({ x: (m) => LEFT + m * perMetre, r: (d) => (d / 2) * perMetre }), [perMetre]);
  const mids = pieces.map((p) => (s.x(p.from_m) + s.x(p.to_m)) / 2);
  const throttleAt = pieces.findIndex((p) => p.type === 'throttle');
  const names = labelLines(
    mids,
    pieces.map((p) => p.label.length * NAME_PX + LABEL_AIR_PX),
    throttleAt,
  );
  const bores = labelLines(
    mids,
    pieces.map((p) => (p.type === 'plenum' ? 0 : boresText(p, pack).length * BORE_PX + LABEL_AIR_PX)),
    throttleAt,
  );
  return (
    <div ref={box} className={styles['section']}>
      {width > 0 && (
        <svg width={width} height={HEIGHT} role="group" aria-label={msg.theIntakeDrawnLengthwiseToScale}>
          <polygon
            points={`${wall(pieces, s, -1)} ${wall(
              [...pieces].reverse().map((p) => ({ ...p, from_m: p.to_m, to_m: p.from_m, inBore_m: p.outBore_m, outBore_m: p.inBore_m })),
              s,
              1,
            )}`}
            className={styles['bore']}
          />
          {pieces.map((p, i) => (
            <Piece
              key={p.id}
              piece={p}
              s={s}
              nameLine={names[i]!}
              boreLine={bores[i]!}
              shaft_m={shaft_m}
              selected={selected === p.id}
              onSelect={onSelect}
              shift={order.dragged === p.id ? order.shift : 0}
              grab={order.grab(p)}
            />
          ))}
          {order.mark !== null && <path d={`M${s.x(order.mark)} ${AXIS_Y - 62} V${AXIS_Y + 62}`} className={styles['drop']} />}
          <polyline points={wall(pieces, s, -1)} className={styles['wall']} />
          <polyline points={wall(pieces, s, 1)} className={styles['wall']} />
          {pieces
            .filter((p) => p.id === selected)
            .map((p) => {
              const set = onBore(p.id);
              return set && <Handle key={p.id} piece={p} s={s} grab={bore(set)} />;
            })}
          {ladder && <Pressure pieces={pieces} ladder={ladder} s={s} ambient_Pa={ambient_Pa} />}
          <text x={LEFT + Math.max(total * perMetre, CAPTIONS_PX)} y={HEIGHT - 4} className={styles['scale']} textAnchor="end">
            {msg.drawnToScale1} {formatNumber(3780 / perMetre, 1)}
          </text>
        </svg>
      )}
      {!ladder && children}
    </div>
  );
}

/** What a hand takes hold of to make the selected part wider or narrower. */
function Handle({ piece, s, grab }: { piece: SectionPiece; s: Scale; grab: (e: React.PointerEvent<SVGElement>) => void }) {
  const x = (s.x(piece.from_m) + s.x(piece.to_m)) / 2;
  const y = AXIS_Y - s.r(piece.inBore_m);
  return (
    <g className={styles['handle']} onPointerDown={grab} data-testid="bore-handle">
      <circle cx={x} cy={y} r={12} className={styles['hit']} />
      <path d={`M${x - 6} ${y} h12 M${x} ${y - 8} v16 M${x - 3} ${y - 5} l3 -4 l3 4 M${x - 3} ${y + 5} l3 4 l3 -4`} />
    </g>
  );
}

function Piece({
  piece,
  s,
  nameLine,
  boreLine,
  shaft_m,
  selected,
  onSelect,
  shift,
  grab,
}: {
  piece: SectionPiece;
  s: Scale;
  nameLine: 0 | 1 | null;
  boreLine: 0 | 1 | null;
  shaft_m: number;
  selected: boolean;
  onSelect: (id: string) => void;
  shift: number;
  grab: ((e: React.PointerEvent<SVGElement>) => void) | undefined;
}) {
  const { pack } = usePrefs();
  const x0 = s.x(piece.from_m);
  const x1 = s.x(piece.to_m);
  const mid = (x0 + x1) / 2;
  const tall = Math.max(s.r(piece.inBore_m), s.r(piece.outBore_m));
  const { unit } = shownUnit('bore', pack);
  const bores = boresText(piece, pack);
  const chosen = piece.type !== 'plenum';
  const pick = (): void => {
    if (chosen) onSelect(piece.id);
  };
  return (
    <g
      className={styles['piece']}
      data-selected={selected}
      data-throttle={piece.type === 'throttle'}
      data-movable={grab !== undefined}
      data-dragged={shift !== 0}
      transform={shift === 0 ? undefined : `translate(${shift} 0)`}
      onPointerDown={grab}
      {...(chosen && {
        role: 'button',
        tabIndex: 0,
        'aria-pressed': selected,
        'aria-label': `${piece.label}, ${bores} ${unit.label}: edit`,
      })}
      onClick={pick}
      onKeyDown={(e) => {
        if (e.key !== 'Enter' && e.key !== ' ') return;
        e.preventDefault();
        pick();
      }}
    >
      <rect x={x0} y={AXIS_Y - tall} width={x1 - x0} height={2 * tall} className={styles['hit']} />
      <Inside piece={piece} s={s} shaft_m={shaft_m} />
      {nameLine === 1 && <path d={`M${mid} ${16} V${AXIS_Y - tall - 3}`} className={styles['leader']} />}
      {nameLine !== null && (
        <text x={mid} y={nameLine === 0 ? AXIS_Y - Math.max(tall, 40) - 8 : 12} className={styles['name']}>
          {piece.label}
        </text>
      )}
      {chosen && boreLine !== null && (
        <text x={mid} y={AXIS_Y + Math.max(tall, 34) + (boreLine === 0 ? 15 : 29)} className={styles['bores']}>
          {bores}
        </text>
      )}
      {piece.brokenFrom_m !== null && (
        <text x={mid} y={AXIS_Y + Math.max(tall, 34) + 29} className={styles['bores']}>
          {formatQuantity(piece.brokenFrom_m, 'length', pack)} {msg.long}
        </text>
      )}
    </g>
  );
}

function Pressure({
  pieces,
  ladder,
  s,
  ambient_Pa,
}: {
  pieces: readonly SectionPiece[];
  ladder: IntakeLadder;
  s: Scale;
  ambient_Pa: number;
}) {
  const { pack } = usePrefs();
  const lines = pressureLines(pieces, ladder);
  const own = lines.at(-1)!;
  const deepest = Math.max(...lines.flat().map((p) => p.below_Pa), 1);
  const y = (below: number): number => PRESSURE_TOP + (below / deepest) * PRESSURE_HEIGHT;
  const losses = lossByPart(ladder, pieces.length - 1);
  const total = losses.reduce((a, b) => a + b, 0);
  // The last part's loss happens where it ends in the plenum: throttle and manifold bore are read as one, as the answer does.
  const throttleAt = pieces.findIndex((p) => p.type === 'throttle');
  const throttle = losses.slice(throttleAt).reduce((a, b) => a + b, 0);
  const ahead = losses.slice(0, throttleAt);
  const worstAhead = ahead.length > 0 ? ahead.indexOf(Math.max(...ahead)) : -1;
  const throttleWorst = worstAhead < 0 || throttle >= ahead[worstAhead]!;
  const worst = throttleWorst ? pieces[throttleAt]! : pieces[worstAhead]!;
  const end = throttleWorst ? pieces.at(-1)! : worst;
  const loss = throttleWorst ? throttle : ahead[worstAhead]!;
  const { unit } = shownUnit('loss', pack);
  const x0 = s.x(worst.from_m);
  const x1 = throttleWorst ? s.x(end.from_m + (end.to_m - end.from_m) * 0.3) : s.x(worst.to_m);
  const line = lines.find((l) => l[0]!.along_m <= worst.from_m + 1e-9 && l.at(-1)!.along_m >= worst.to_m - 1e-9) ?? own;
  const before = line.filter((p) => p.along_m <= worst.from_m + 1e-9).at(-1)!.below_Pa;
  const last = s.x(pieces.at(-1)!.to_m);
  const lastBelow = own.at(-1)!.below_Pa;
  const textLeft = x0 - 8 - LEFT > 190;
  return (
    <g>
      <path d={`M${LEFT} ${PRESSURE_TOP} H${last}`} className={styles['zero']} />
      <text x={LEFT - 8} y={PRESSURE_TOP + 4} className={styles['tick']}>
        0
      </text>
      <text x={LEFT - 8} y={PRESSURE_TOP + PRESSURE_HEIGHT / 2 + 4} className={styles['tick']}>
        {unit.label}
      </text>
      <text x={LEFT - 8} y={PRESSURE_TOP + PRESSURE_HEIGHT + 4} className={styles['tick']}>
        {formatNumber(fromSI(-deepest, unit), 1)}
      </text>
      <rect
        x={x0}
        y={y(before)}
        width={Math.max(2, x1 - x0)}
        height={Math.max(1, y(before + loss) - y(before))}
        className={styles['worst']}
      />
      {lines.map((l) => (
        <polyline
          key={l[0]!.along_m}
          points={l.map((p) => `${s.x(p.along_m).toFixed(1)},${y(p.below_Pa).toFixed(1)}`).join(' ')}
          className={styles['pressure']}
        />
      ))}
      {ladder.before && (
        <text x={s.x(own[0]!.along_m) + 2} y={PRESSURE_TOP - 6} className={styles['scale']}>
          {msg.afterTheTurbo} {formatQuantity(ladder.start_Pa, 'plenum', pack)}
        </text>
      )}
      <text
        x={textLeft ? x0 - 8 : x1 + 8}
        y={textLeft ? y(before + loss) - 6 : y(before + loss / 2) + 4}
        className={styles['worstText']}
        textAnchor={textLeft ? 'end' : 'start'}
      >
        {throttleWorst ? 'throttle and manifold bore' : worst.label}: {'\u2212'}
        {formatQuantity(loss, 'loss', pack)} · {formatNumber((100 * loss) / total, 0)} %
      </text>
      <text x={last + 6} y={y(lastBelow) + 4} className={styles['endText']}>
        {formatQuantity(ladder.start_Pa - lastBelow, 'plenum', pack)}
      </text>
      <text x={LEFT} y={HEIGHT - 4} className={styles['scale']}>
        {msg.pressureLostFrom} {formatQuantity(ambient_Pa, 'plenum', pack)} {msg.outside}
      </text>
    </g>
  );
}
