'use client';

import { Button, Select } from 'antd';
import { useState } from 'react';
import { issueText } from '@/core/documents/issue-text';
import { CORRECTION_METHODS } from '@/core/documents/kinds';
import { readList } from '@/core/units/list';
import { SMOOTHING_WIDTHS_rpm } from '@/core/runs/smooth';
import { DocField } from '@/features/job/field';
import { useJob } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop-page';
import { BareField, FieldRow } from '@/ui/field/field-row';
import { usePrefs } from '@/ui/theme/prefs';
import styles from '../test.module.css';
import { msg } from './messages';

/** One smoothing and one correction for every run. */
export function Settings() {
  const test = useJob((s) => s.doc.test);
  const set = useJob((s) => s.set);
  return (
    <div className={styles['bar']}>
      <label>
        {msg.smoothing}
        <Select
          size="small"
          aria-label={msg.smoothing}
          style={{ width: 104 }}
          value={test.fwhm_rpm}
          options={SMOOTHING_WIDTHS_rpm.map((w) => ({ value: w, label: w === 0 ? 'none' : `${w} rpm` }))}
          onChange={(v) => set('test.fwhm_rpm', v)}
        />
      </label>
      <label>
        {msg.correction}
        <Select
          size="small"
          aria-label={msg.correction}
          style={{ width: 118 }}
          value={test.correction}
          options={CORRECTION_METHODS.map((m) => ({ value: m, label: m }))}
          onChange={(v) => set('test.correction', v)}
        />
      </label>
      <Range />
      <span className="quiet">{msg.theSameForEveryRun}</span>
    </div>
  );
}

const WHOLE: readonly [number, number] = [0, 20_000];

/** The engine speeds compared at most; empty fields: all that the runs share. */
function Range() {
  const range = useJob((s) => s.doc.test.range_rpm);
  const set = useJob((s) => s.set);
  const [low, high] = range ?? WHOLE;
  const put = (next: readonly [number, number]): void =>
    set('test.range_rpm', next[0] === WHOLE[0] && next[1] === WHOLE[1] ? null : [next[0], next[1]]);
  return (
    <span className={styles['range']}>
      {msg.over}
      <BareField
        width={96}
        label={msg.comparedFrom}
        measure="rpm"
        value={low === WHOLE[0] ? null : low}
        placeholder={msg.lowest}
        within={{ least: WHOLE[0], less: high }}
        onChange={(v) => put([v, high])}
        onClear={() => put([WHOLE[0], high])}
      />
      {msg.to}
      <BareField
        width={96}
        label={msg.comparedTo}
        measure="rpm"
        value={high === WHOLE[1] ? null : high}
        placeholder={msg.highest}
        within={{ more: low, most: WHOLE[1] }}
        onChange={(v) => put([low, v])}
        onClear={() => put([low, WHOLE[1]])}
      />
    </span>
  );
}

/** Stretches of a person's own, and what the gearbox says about the engine speeds really used. */
export function Bands() {
  const bands = useJob((s) => s.doc.test.bands_rpm);
  const ratios = useJob((s) => s.doc.car.gearbox.ratios);
  const redline = useJob((s) => s.doc.car.engine.redline_rpm);
  const shift = useJob((s) => s.doc.test.shift_rpm);
  const set = useJob((s) => s.set);
  const change = useJob((s) => s.change);
  const put = (next: readonly (readonly [number, number])[]): void =>
    void change((doc) => ({ ...doc, test: { ...doc.test, bands_rpm: next.map(([a, b]) => [a, b]) } }));
  return (
    <>
      <Heading
        more={
          <Button size="small" disabled={bands.length >= 6} onClick={() => put([...bands, [Math.round(redline * 0.6), redline]])}>
            {msg.addABand}
          </Button>
        }
      >
        {msg.bandsOfYourOwn}
      </Heading>
      {bands.map(([lo, hi], i) => (
        <div key={i} className={styles['band']}>
          <FieldRow
            label={`Band ${i + 1} from`}
            measure="rpm"
            value={lo}
            within={{ least: 0, less: hi }}
            onChange={(v) => put(bands.map((b, k) => (k === i ? [v, hi] : b)))}
          />
          <FieldRow
            label={msg.to}
            measure="rpm"
            value={hi}
            within={{ more: lo, most: 20_000 }}
            onChange={(v) => put(bands.map((b, k) => (k === i ? [lo, v] : b)))}
          />
          <Button size="small" type="text" aria-label={`Remove band ${i + 1}`} onClick={() => put(bands.filter((_, k) => k !== i))}>
            ×
          </Button>
        </div>
      ))}
      <Heading>{msg.revBandBetweenShifts}</Heading>
      <DocField
        path="test.shift_rpm"
        label={msg.shiftAt}
        measure="rpm"
        nullable
        placeholder={String(redline)}
        mark={shift === null && <span className="quiet">{msg.theRedline}</span>}
      />
      <label className={styles['ratios']}>
        {msg.gearRatiosFirstGearFirst}
        <RatioInput ratios={ratios} onChange={(next) => set('car.gearbox.ratios', next)} />
      </label>
    </>
  );
}

/** Gear ratios in one line; what is no figure is named, and none is left out. */
function RatioInput({ ratios, onChange }: { ratios: readonly number[]; onChange: (ratios: number[]) => void }) {
  const { pack } = usePrefs();
  const refused = useJob((s) => s.pending['car.gearbox.ratios']);
  const [text, setText] = useState<string | null>(null);
  const read = text === null ? null : readList(text);
  const wrong =
    read && 'unread' in read ? `“${read.unread}” is not a ratio: ${msg.typeRatios}` : refused && issueText(refused, 'ratio', pack);
  return (
    <>
      <input
        className={styles['plainInput']}
        aria-label={msg.gearRatios}
        aria-invalid={wrong !== undefined}
        value={text ?? ratios.join(' ')}
        placeholder="3.32 1.96 1.36 1.00 0.81"
        onChange={(e) => setText(e.target.value)}
        onBlur={() => {
          if (!read || 'unread' in read) return;
          if (refused || read.values.join(' ') !== ratios.join(' ')) onChange([...read.values]);
          else setText(null);
        }}
      />
      {wrong && (
        <span className={styles['wrong']} role="alert">
          {wrong}
        </span>
      )}
    </>
  );
}
