'use client';

import { manifoldFace, unitFace } from '@/core/documents/faces';
import { flangeHoles, fromOpening, type Flange } from '@/core/shape/flange';
import { torquePlan } from '@/core/install/torque';
import { formatQuantity } from '@/core/units/quantity';
import { openingPath } from '@/features/fit/face-geometry';
import { useChosenUnit } from '@/features/fit/use-fit';
import { DocField } from '@/features/job/field';
import { useJob } from '@/features/job/provider';
import { torqueWorking } from '@/core/working/install-working';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import { Large, OneByOne } from './at-car';
import car from './at-car.module.css';
import styles from './install.module.css';
import { msg } from './messages';

const SIZE = 260;

/** The flange's own holes with the order they are tightened in. */
function OrderDrawing({ face, order, now }: { face: Flange; order: readonly number[]; now?: number }) {
  const { palette } = usePrefs();
  const holes = flangeHoles(face);
  const reach = Math.max(...holes.map((h) => Math.hypot(h.x_m, h.y_m))) + face.hole_m + 0.006;
  const k = SIZE / 2 / reach;
  const X = (x: number): number => SIZE / 2 + x * k;
  const Y = (y: number): number => SIZE / 2 - y * k;
  const path = order.map((i, n) => `${n === 0 ? 'M' : 'L'}${X(holes[i]!.x_m)} ${Y(holes[i]!.y_m)}`).join(' ');
  return (
    <svg
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      className={styles['order']}
      role="img"
      aria-label={`Tighten in the order ${order.map((i) => i + 1).join(', ')}`}
    >
      <g transform={`translate(${SIZE / 2 - 300} ${SIZE / 2 - 238})`}>
        <path d={openingPath(face.opening, face.clock_rad ?? 0, k)} fill="none" stroke={palette.quiet} strokeWidth="1.4" />
      </g>
      <path d={path} fill="none" stroke={palette.series[1]} strokeWidth="1.2" strokeDasharray="5 4" />
      {holes.map((h, i) => {
        const far = fromOpening(face, h) > 0.012 ? 14 : 12;
        return (
          <g key={i}>
            <circle
              cx={X(h.x_m)}
              cy={Y(h.y_m)}
              r={far}
              fill={i === now ? palette.series[1]! : palette.sheet}
              stroke={palette.ink}
              strokeWidth="1.6"
            />
            <text
              x={X(h.x_m)}
              y={Y(h.y_m) + 6}
              textAnchor="middle"
              fontSize="17"
              fontWeight="600"
              fill={i === now ? palette.sheet : palette.ink}
              fontFamily="Barlow Condensed, sans-serif"
            >
              {order.indexOf(i) + 1}
            </text>
          </g>
        );
      })}
    </svg>
  );
}

/** Torque: the cross order on this flange, the rounds, and whose figure it is. */
export function Torque() {
  const { pack } = usePrefs();
  const stock = useJob((s) => s.doc.car.stock);
  const mounting = useJob((s) => s.doc.fit.mounting);
  const maker_Nm = useJob((s) => s.doc.install.torque_Nm);
  const unit = useChosenUnit();
  const face = manifoldFace(stock) ?? (unit ? unitFace(unit.doc) : null);
  const bolt = stock.flange?.bolt ?? 'M6';
  const into = stock.flange?.into ?? 'aluminium';
  const plan = torquePlan(face ? flangeHoles(face) : [], bolt, into, maker_Nm);
  const Nm = (v: number): string => formatQuantity(v, 'smallTorque', pack);
  return (
    <div className={styles['panel']}>
      {face ? <OrderDrawing face={face} order={plan.order} /> : <p className="quiet">{msg.theFlangeIsNotMeasuredSee}</p>}
      <div>
        <p>
          <Num small label={msg.torqueByRounds} working={() => torqueWorking(plan, bolt, into)}>
            {plan.rounds_Nm.map(Nm).join(', then ')}
          </Num>
          {msg.eachRoundInThisOrder}
        </p>
        <p className={plan.from === 'maker' ? 'quiet' : styles['caution']}>
          {plan.from === 'maker'
            ? 'The maker’s figure.'
            : `Ours, cautious, for ${bolt} in ${into}${stock.flange ? '' : ' (assumed)'}: the maker’s figure beats it.`}
          {mounting.adapter && ' The plate’s own bolts first, then the throttle’s.'}
        </p>
        <DocField path="install.torque_Nm" label={msg.makersTorque} measure="smallTorque" nullable placeholder={msg.notAtHand} />
        {face && plan.rounds_Nm.length > 0 && (
          <Large title={msg.tightenInACross}>
            {(close) => (
              <OneByOne
                done={close}
                items={plan.rounds_Nm.flatMap((torque, round) =>
                  plan.order.map((bolt, n) => ({
                    key: `${round}-${bolt}`,
                    show: (
                      <>
                        <p className={car['say']}>
                          {msg.round} {round + 1} {msg.ofWord} {plan.rounds_Nm.length}
                          {msg.bolt} {n + 1} {msg.ofWord} {plan.order.length}
                        </p>
                        <p className={car['big']}>{Nm(torque)}</p>
                        <p className="quiet">
                          {plan.from === 'maker' ? 'The maker’s figure.' : 'Ours, cautious: the maker’s figure beats it.'}
                        </p>
                        <div className={car['drawing']}>
                          <OrderDrawing face={face} order={plan.order} now={bolt} />
                        </div>
                      </>
                    ),
                  })),
                )}
              />
            )}
          </Large>
        )}
      </div>
    </div>
  );
}
