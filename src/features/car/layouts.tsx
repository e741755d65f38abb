'use client';

import type { InductionKind } from '@/core/documents/induction';
import { INDUCTION_KINDS } from '@/core/documents/kinds';
import { withInduction } from '@/core/job/induction';
import { useJob } from '@/features/job/provider';
import { Mark } from '@/features/job/field';
import { Heading } from '@/ui/answer/stop-page';
import styles from './car.module.css';
import { msg } from './messages';

const INDUCTION_WORDS: Readonly<Record<InductionKind, { name: string; where: string }>> = {
  na: { name: 'no compressor', where: 'throttle on the plenum' },
  individual: { name: 'individual throttles', where: 'one a cylinder, in an airbox' },
  drawThrough: { name: 'blower behind it', where: 'throttle before a displacement blower' },
  centrifugal: { name: 'centrifugal before it', where: 'belt-driven, throttle behind the cooler' },
  turbo: { name: 'turbo before it', where: 'wastegated, throttle behind the cooler' },
};

const LINE = { fill: 'none', stroke: 'currentColor', strokeWidth: 1.6 } as const;

const Filter = ({ x }: { x: number }) => <path d={`M${x} 12 v20 M${x + 3} 12 v20 M${x + 6} 12 v20`} {...LINE} strokeWidth={1.2} />;
/** The blade in its bore: what the picture is about, so it is drawn heaviest. */
const Blade = ({ x, y = 22 }: { x: number; y?: number }) => (
  <>
    <path d={`M${x - 5} ${y + 6} L${x + 5} ${y - 6}`} stroke="var(--verdigris)" strokeWidth="3" />
    <circle cx={x} cy={y} r="2" fill="var(--verdigris)" />
  </>
);
const Plenum = ({ x }: { x: number }) => (
  <>
    <rect x={x} y="10" width="16" height="24" {...LINE} />
    {[13, 19, 25, 31].map((y) => (
      <path key={y} d={`M${x + 16} ${y} h10`} {...LINE} strokeWidth={1.2} />
    ))}
  </>
);
const Wheel = ({ x }: { x: number }) => (
  <>
    <circle cx={x} cy="22" r="9" {...LINE} />
    <path d={`M${x} 22 q5 -2 8 2 M${x} 22 q-5 2 -8 -2 M${x} 22 q2 5 -2 8 M${x} 22 q-2 -5 2 -8`} {...LINE} strokeWidth={1.1} />
  </>
);
const Lobes = ({ x }: { x: number }) => (
  <>
    <rect x={x - 10} y="9" width="20" height="26" rx="9" {...LINE} />
    <circle cx={x} cy="16.5" r="5" {...LINE} strokeWidth={1.2} />
    <circle cx={x} cy="27.5" r="5" {...LINE} strokeWidth={1.2} />
  </>
);
const Cooler = ({ x }: { x: number }) => (
  <path d={`M${x} 12 h12 v20 h-12 z M${x + 3} 12 v20 M${x + 6} 12 v20 M${x + 9} 12 v20`} {...LINE} strokeWidth={1.1} />
);
const Tube = ({ from, to }: { from: number; to: number }) => <path d={`M${from} 18 H${to} M${from} 26 H${to}`} {...LINE} />;

function Picture({ kind }: { kind: InductionKind }) {
  return (
    <svg viewBox="0 0 120 44" width="120" height="44" aria-hidden="true">
      <Filter x={4} />
      {kind === 'na' && (
        <>
          <Tube from={12} to={74} />
          <Blade x={56} />
          <Plenum x={76} />
        </>
      )}
      {kind === 'individual' && (
        <>
          <Tube from={12} to={30} />
          <rect x="31" y="6" width="34" height="32" {...LINE} />
          {[12, 22, 32].map((y) => (
            <g key={y}>
              <path d={`M60 ${y - 4} H100 M60 ${y + 4} H100`} {...LINE} strokeWidth={1.2} />
              <path d={`M79 ${y + 3.4} l6 -6.8`} stroke="var(--verdigris)" strokeWidth="2.4" />
            </g>
          ))}
        </>
      )}
      {kind === 'drawThrough' && (
        <>
          <Tube from={12} to={50} />
          <Blade x={34} />
          <Lobes x={61} />
          <Cooler x={73} />
          <Plenum x={88} />
        </>
      )}
      {(kind === 'turbo' || kind === 'centrifugal') && (
        <>
          <Tube from={12} to={21} />
          <Wheel x={30} />
          {kind === 'turbo' ? (
            <path d="M30 31 v8 M24 39 h12" {...LINE} strokeWidth={1.2} />
          ) : (
            <path d="M22 40 a8 3 0 0 0 16 0 a8 3 0 0 0 -16 0" {...LINE} strokeWidth={1.2} />
          )}
          <Cooler x={43} />
          <Tube from={56} to={86} />
          <Blade x={72} />
          <Plenum x={88} />
        </>
      )}
    </svg>
  );
}

/** How the engine is filled, and where its throttle sits in that: picked from small drawings. */
export function Layouts() {
  const kind = useJob((s) => s.doc.car.induction.kind);
  const change = useJob((s) => s.change);
  return (
    <>
      <Heading more={<Mark path="car.induction" />}>{msg.howItIsFilledAndWhere}</Heading>
      <div className={styles['layouts']} role="radiogroup" aria-label={msg.howTheEngineIsFilled}>
        {INDUCTION_KINDS.map((k) => (
          <button
            key={k}
            type="button"
            role="radio"
            aria-checked={k === kind}
            className={styles['layout']}
            onClick={() => k !== kind && change((doc) => withInduction(doc, k))}
          >
            <Picture kind={k} />
            <strong>{INDUCTION_WORDS[k].name}</strong>
            <span>{INDUCTION_WORDS[k].where}</span>
          </button>
        ))}
      </div>
    </>
  );
}
