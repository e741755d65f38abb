import type { ReactNode } from 'react';
import type { DrawingName } from './glossary';
import { msg } from './messages';

const LINE = { fill: 'none', stroke: 'currentColor', strokeWidth: 2 } as const;
const SOFT = { fill: 'currentColor', opacity: 0.16 } as const;
const Words = ({ x, y, children, end = false }: { x: number; y: number; children: string; end?: boolean }) => (
  <text x={x} y={y} fontSize="13" fill="currentColor" textAnchor={end ? 'end' : 'start'}>
    {children}
  </text>
);

/** Small drawings for words that a picture says sooner. */
const PICTURES: Readonly<Record<DrawingName, ReactNode>> = {
  bore: (
    <>
      <circle cx="70" cy="60" r="48" {...LINE} />
      <rect x="22" y="54" width="96" height="12" fill="currentColor" opacity="0.5" />
      <path d="M22 60h-0 M70 12v0" {...LINE} />
      <path d="M128 12v96 M122 12h12 M122 108h12" {...LINE} strokeWidth="1.4" />
      <Words x={140} y={64}>
        {msg.bore}
      </Words>
      <Words x={140} y={100}>
        {msg.netAreaTheRingsInsideLess}
      </Words>
    </>
  ),
  step: (
    <>
      <path d="M10 30h110v-14h130 M10 90h110v14h130" {...LINE} />
      <path d="M260 30h-110 M260 90h-110" {...LINE} strokeDasharray="4 4" />
      <path d="M20 60h80 M92 54l10 6-10 6" {...LINE} />
      <rect x="118" y="16" width="6" height="14" fill="currentColor" />
      <rect x="118" y="90" width="6" height="14" fill="currentColor" />
      <Words x={132} y={64}>
        {msg.aStepWhereTheBoresDiffer}
      </Words>
    </>
  ),
  loss: (
    <>
      <path d="M20 108V12 M20 108h240" {...LINE} strokeWidth="1.4" />
      <path d="M22 104C110 100 180 80 250 18" {...LINE} />
      <path d="M20 52h230" {...LINE} strokeDasharray="5 4" strokeWidth="1.4" />
      <path d="M202 52v56" {...LINE} strokeDasharray="2 3" strokeWidth="1.4" />
      <Words x={26} y={46}>
        {msg.allowedLoss}
      </Words>
      <Words x={198} y={102} end>
        {msg.runsShortFrom}
      </Words>
      <Words x={256} y={122} end>
        {msg.rpm}
      </Words>
    </>
  ),
  tipin: (
    <>
      <path d="M20 108V12 M20 108h240" {...LINE} strokeWidth="1.4" />
      <path d="M20 108C80 92 150 60 250 20" {...LINE} strokeDasharray="6 4" />
      <path d="M20 108C60 60 130 34 250 16" {...LINE} />
      <rect x="20" y="12" width="26" height="96" {...SOFT} />
      <Words x={52} y={102}>
        {msg.firstTenthOfThePedal}
      </Words>
      <Words x={176} y={72}>
        {msg.stockDashed}
      </Words>
    </>
  ),
  stays: (
    <>
      {[0, 1, 2, 3].map((s) => (
        <g key={s}>
          <rect x={14 + s * 66} y="40" width="56" height="44" {...(s % 2 === 0 ? LINE : { ...SOFT, stroke: 'currentColor' })} />
          {[0, 1, 2].map((r) => (
            <circle key={r} cx={28 + s * 66 + r * 14} cy={62 + ((s * 7 + r * 5) % 9) - 4} r="4" fill="currentColor" />
          ))}
          <Words x={20 + s * 66} y={104}>
            {s % 2 === 0 ? 'stock' : 'new'}
          </Words>
        </g>
      ))}
      <Words x={14} y={28}>
        {msg.aPointIsARunA}
      </Words>
    </>
  ),
  interval: (
    <>
      <path d="M20 78h240 M140 70v16" {...LINE} strokeWidth="1.4" />
      <rect x="118" y="60" width="44" height="36" {...SOFT} />
      <path d="M150 50h86 M150 42v16 M236 42v16" {...LINE} />
      <circle cx="193" cy="50" r="5" fill="currentColor" />
      <Words x={134} y={112}>
        0
      </Words>
      <Words x={20} y={56}>
        {msg.doesNotMatter}
      </Words>
      <Words x={150} y={32}>
        {msg.n95Interval}
      </Words>
    </>
  ),
  stops: (
    <>
      <path d="M10 24h250 M10 104h250" {...LINE} />
      <path d="M58 100 L74 28" {...LINE} strokeWidth="4" />
      <path d="M188 64h-0 M150 64h78" {...LINE} strokeWidth="4" strokeDasharray="3 6" />
      <Words x={82} y={64}>
        {msg.shut}
      </Words>
      <Words x={150} y={54}>
        {msg.openNeverPastInLine}
      </Words>
    </>
  ),
};

export const TermDrawing = ({ name }: { name: DrawingName }) => (
  <svg viewBox="0 0 290 126" width="290" height="126" aria-hidden="true" style={{ display: 'block', maxWidth: '100%' }}>
    {PICTURES[name]}
  </svg>
);
