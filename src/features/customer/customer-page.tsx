import { formatNumber, formatSigned } from '@/core/units/quantity';
import { EffectBars } from '@/features/verdict/effect-bars';
import type { CustomerSheet, SheetCurve } from '@/core/verdict/customer-sheet';
import { gainPlot } from '@/core/verdict/gain-plot';
import styles from './customer.module.css';
import { msg } from './messages';

const BOX = { left: 44, top: 26, width: 620, height: 210 } as const;
const path = (points: readonly (readonly [number, number])[]): string =>
  points.map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${x.toFixed(1)} ${y.toFixed(1)}`).join('');

/** The difference over engine speed, drawn on the server: the page runs nothing. */
function GainChart({ curve }: { curve: SheetCurve }) {
  const p = gainPlot(curve, BOX);
  const end = BOX.left + BOX.width;
  const last = (points: readonly (readonly [number, number])[]): number => points.at(-1)?.[1] ?? 0;
  const [m, q] = [last(p.measured), last(p.predicted)];
  // Two names at one height would lie on one another.
  const apart = p.predicted.length > 0 && Math.abs(m - q) < 15 ? 8 : 0;
  return (
    <svg className={styles['chart']} viewBox="0 0 760 270" role="img" aria-label={msg.powerAgainstStockInPercentOver}>
      <text x={BOX.left} y={14}>
        {msg.powerAgainstStock}
      </text>
      {p.pctTicks.map((v) => (
        <g key={v}>
          <line x1={BOX.left} x2={end} y1={p.y(v)} y2={p.y(v)} className={styles[v === 0 ? 'zero' : 'grid']} />
          <text x={BOX.left - 6} y={p.y(v) + 4} textAnchor="end">
            {formatSigned(v, Math.abs(v % 1) > 1e-9 ? 1 : 0)}
          </text>
        </g>
      ))}
      {p.rpmTicks.map((n) => (
        <text key={n} x={p.x(n)} y={BOX.top + BOX.height + 18} textAnchor="middle">
          {formatNumber(n, 0)}
        </text>
      ))}
      <text x={end} y={BOX.top + BOX.height + 18} dx="44" textAnchor="end">
        {msg.rpm}
      </text>
      <path d={`${path(p.band)}Z`} className={styles['band']} />
      {p.predicted.length > 1 && <path d={path(p.predicted)} className={styles['predicted']} />}
      <path d={path(p.measured)} className={styles['measured']} />
      <text x={end + 6} y={m + 4 + (m > q ? apart : -apart)} className={styles['strong']}>
        {msg.measured}
      </text>
      {p.predicted.length > 1 && (
        <text x={end + 6} y={q + 4 + (m > q ? -apart : apart)} className={styles['said']}>
          {msg.predicted}
        </text>
      )}
    </svg>
  );
}

/** A customer's page: this car, what was done, what came of it. */
export function CustomerPage({
  sheet,
  until,
  pdf,
  photos,
}: {
  sheet: CustomerSheet;
  /** The day it opens until, in the reader's words. */
  until: string;
  pdf: string;
  /** Where its pictures are. */
  photos: string;
}) {
  return (
    <main className={styles['page']}>
      <p className={styles['shop']}>{sheet.shop}</p>
      <h1>
        {sheet.car}: {sheet.unit}
      </h1>
      {sheet.about.length > 0 && (
        <dl className={styles['about']}>
          {sheet.about.map(([name, text]) => (
            <div key={name}>
              <dt>{name}</dt>
              <dd>{text}</dd>
            </div>
          ))}
        </dl>
      )}
      <p className={styles['answer']}>{sheet.answer}</p>
      {sheet.decided && <p className={styles['decided']}>{sheet.decided}</p>}
      {sheet.curve && <GainChart curve={sheet.curve} />}
      <EffectBars bars={sheet.bars} />
      {sheet.tables.map((t) => (
        <section key={t.title}>
          <h2>{t.title}</h2>
          <table className="plain">
            <thead>
              <tr>
                {t.head.map((h, i) => (
                  <th key={i} className={i === 0 ? undefined : 'num'}>
                    {h}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {t.rows.map((row, i) => (
                <tr key={i}>
                  {row.map((cell, k) => (
                    <td key={k} className={k === 0 ? undefined : 'num'}>
                      {cell}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      ))}
      <section>
        <h2>{msg.why}</h2>
        <ul>
          {sheet.reasons.map((r, i) => (
            <li key={i}>{r}</li>
          ))}
        </ul>
      </section>
      {sheet.photos.length > 0 && (
        <section className={styles['photos']}>
          {sheet.photos.map(({ at, caption }) => (
            <figure key={at}>
              {/* eslint-disable-next-line @next/next/no-img-element -- the page runs nothing */}
              <img src={`${photos}/${at}`} alt={caption || 'Picture of the car'} />
              {caption && <figcaption>{caption}</figcaption>}
            </figure>
          ))}
        </section>
      )}
      {sheet.note && (
        <section>
          <h2>{msg.inTheShopsWords}</h2>
          <p className={styles['note']}>{sheet.note}</p>
        </section>
      )}
      <footer>
        {sheet.small.map((s) => (
          <p key={s}>{s}</p>
        ))}
        <p className="no-print">
          <a href={pdf}>{msg.asAPdf}</a> {msg.thisPageOpensUntil} {until}
        </p>
      </footer>
    </main>
  );
}
