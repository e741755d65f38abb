'use client';

import { Button, Segmented } from 'antd';
import { useState, useSyncExternalStore } from 'react';
import { BAR_RANGE_m, SHEETS, TEMPLATE_FORMATS } from '@/core/documents/kinds';
import type { StoredUnit } from '@/core/documents/unit';
import { isFailure } from '@/core/failure';
import { TEMPLATE_KINDS, type Template, type TemplateKind, type TemplateMark } from '@/core/documents/template-marks';
import { templateBounds, templateOf } from '@/core/fit/template';
import { formatQuantity } from '@/core/units/quantity';
import { useJob } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop-page';
import { saveFile } from '@/ui/chart/save-file';
import { ChoiceField } from '@/ui/field/choice-field';
import { FieldRow } from '@/ui/field/field-row';
import { usePrefs } from '@/ui/theme/prefs';
import styles from './fit.module.css';
import { msg } from './messages';

const KIND_WORDS: Readonly<Record<TemplateKind, string>> = {
  gasket: 'Gasket',
  adapter: 'Adapter plate',
  'port-match': 'Port match',
  'drill-guide': 'Drill guide',
};
const MISSING: Readonly<Record<string, string>> = {
  manifold_flange: 'The manifold’s face is not measured yet: see Manifold on the right.',
  unit_flange: 'The throttle’s flange is not measured yet: measure it on the Shelf.',
  adapter_missing: 'There is no adapter plate on this job: see Mounting on the right.',
};

const KEY = 'vanner-printer';
const nothing = (): (() => void) => () => {};
interface Printer {
  readonly sheet: (typeof SHEETS)[number];
  readonly measured_m: number;
}
const USUAL: Printer = { sheet: 'A4', measured_m: 0.05 };

/** The printer of this device: its sheet, and what its last 50 mm bar measured. */
function usePrinter(): [Printer, (p: Printer) => void] {
  const kept = useSyncExternalStore(
    nothing,
    () => localStorage.getItem(KEY) ?? '',
    () => '',
  );
  const [set, setSet] = useState<Printer | null>(null);
  const read = (): Printer => {
    try {
      return { ...USUAL, ...(JSON.parse(kept) as Partial<Printer>) };
    } catch {
      return USUAL;
    }
  };
  return [
    set ?? read(),
    (p) => {
      localStorage.setItem(KEY, JSON.stringify(p));
      setSet(p);
    },
  ];
}

/** A template drawn small, as it will be cut. */
function Preview({ template }: { template: Template }) {
  const { palette } = usePrefs();
  const b = templateBounds(template.marks);
  const pad = 0.004;
  const y = (v: number): number => -v * 1000;
  const color = (m: TemplateMark): string =>
    ({ outline: palette.ink, opening: palette.series[0]!, holes: palette.series[3]!, scribe: palette.quiet, check: palette.ink })[m.layer];
  return (
    <svg
      className={styles['preview']}
      role="img"
      aria-label={template.title}
      viewBox={`${(b.left - pad) * 1000} ${y(b.high + pad)} ${(b.right - b.left + 2 * pad) * 1000} ${(b.high - b.low + 2 * pad) * 1000}`}
    >
      {template.marks.map((m, i) => {
        const line = { stroke: color(m), strokeWidth: m.layer === 'scribe' ? 0.25 : 0.5, fill: 'none' };
        if (m.kind === 'line') return <path key={i} d={`M${m.a.x_m * 1000} ${y(m.a.y_m)} L${m.b.x_m * 1000} ${y(m.b.y_m)}`} {...line} />;
        if (m.kind === 'circle') return <circle key={i} cx={m.at.x_m * 1000} cy={y(m.at.y_m)} r={m.r_m * 1000} {...line} />;
        if (m.kind === 'arc') {
          const at = (a: number): string => `${(m.at.x_m + m.r_m * Math.cos(a)) * 1000} ${y(m.at.y_m + m.r_m * Math.sin(a))}`;
          return (
            <path
              key={i}
              d={`M${at(m.from_rad)} A${m.r_m * 1000} ${m.r_m * 1000} 0 ${m.to_rad - m.from_rad > Math.PI ? 1 : 0} 0 ${at(m.to_rad)}`}
              {...line}
            />
          );
        }
        return (
          <text key={i} x={m.at.x_m * 1000} y={y(m.at.y_m)} fontSize={m.height_m * 1000} textAnchor="middle" fill={color(m)}>
            {m.text}
          </text>
        );
      })}
    </svg>
  );
}

/** Templates at true size, to print or cut: which, as what, and for which printer. */
export function Templates({ unit }: { unit: StoredUnit }) {
  const { pack } = usePrefs();
  const doc = useJob((s) => s.doc);
  const [kind, setKind] = useState<TemplateKind>('gasket');
  const [printer, setPrinter] = usePrinter();
  const [trouble, setTrouble] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const template = templateOf(kind, doc, unit.doc);
  const off = printer.measured_m < BAR_RANGE_m[0] || printer.measured_m > BAR_RANGE_m[1];
  const get = async (format: (typeof TEMPLATE_FORMATS)[number]): Promise<void> => {
    if (isFailure(template)) return;
    setBusy(true);
    setTrouble(null);
    try {
      const answer = await fetch('/api/templates', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ template, format, ...printer }),
      });
      if (!answer.ok) throw new Error(((await answer.json()) as { message: string }).message);
      saveFile(`${doc.name} ${kind}.${format}`, await answer.blob(), answer.headers.get('content-type') ?? '');
    } catch (error) {
      setTrouble(error instanceof TypeError ? 'The server cannot be reached. Try again in a moment.' : (error as Error).message);
    } finally {
      setBusy(false);
    }
  };
  return (
    <section aria-label={msg.templates}>
      <Heading more={<span className="quiet">{msg.trueSizeLookingAtTheManifolds}</span>}>{msg.templates}</Heading>
      <Segmented<TemplateKind>
        aria-label={msg.template}
        value={kind}
        options={TEMPLATE_KINDS.map((value) => ({ value, label: KIND_WORDS[value] }))}
        onChange={setKind}
      />
      {isFailure(template) ? (
        <p role="status" style={{ marginTop: 10 }}>
          {MISSING[template.reason ?? ''] ?? 'This geometry cannot be drawn.'}
        </p>
      ) : (
        <div className={styles['template']}>
          <Preview template={template} />
          <div>
            <div className={styles['formats']}>
              {TEMPLATE_FORMATS.map((f) => (
                <Button
                  key={f}
                  disabled={busy || (f === 'pdf' && off)}
                  type={f === 'pdf' ? 'primary' : 'default'}
                  onClick={() => void get(f)}
                >
                  {f.toUpperCase()}
                </Button>
              ))}
            </div>
            {trouble && (
              <p role="alert" className={styles['trouble']}>
                {trouble}
              </p>
            )}
            <ChoiceField
              label={msg.sheet}
              value={printer.sheet}
              options={SHEETS.map((value) => ({ value, label: value }))}
              onChange={(sheet) => setPrinter({ ...printer, sheet })}
            />
            <FieldRow
              label={msg.lastPrints50MmBarMeasured}
              measure="fineLength"
              value={printer.measured_m}
              wrong={off ? 'A 50 mm bar comes out between 45 and 55 mm. Was it printed “to fit”? Print at 100 %.' : undefined}
              onChange={(measured_m) => setPrinter({ ...printer, measured_m })}
            />
            <p className="quiet" style={{ fontSize: 13 }}>
              {msg.theNextPdfIsDrawnThat}
            </p>
            <table className="plain" style={{ marginTop: 8 }}>
              <thead>
                <tr>
                  <th className="num">{msg.hole}</th>
                  <th>{msg.what}</th>
                  <th className="num">{msg.right}</th>
                  <th className="num">{msg.up}</th>
                  <th className="num">{msg.wide}</th>
                </tr>
              </thead>
              <tbody>
                {template.holes.map((h) => (
                  <tr key={h.n}>
                    <td className="num">{h.n}</td>
                    <td>{h.what}</td>
                    <td className="num">{formatQuantity(h.at.x_m, 'fineLength', pack)}</td>
                    <td className="num">{formatQuantity(h.at.y_m, 'fineLength', pack)}</td>
                    <td className="num">{formatQuantity(h.diameter_m, 'fineLength', pack)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            {template.notes.map((n) => (
              <p key={n} style={{ marginTop: 6, fontSize: 14 }}>
                {n}
              </p>
            ))}
          </div>
        </div>
      )}
    </section>
  );
}
