'use client';

import { Button } from 'antd';
import type { ManifoldFlangeDoc, PatternDoc, PatternKind, UnitFlangeDoc } from '@/core/documents/flange';
import { PATTERN_KINDS } from '@/core/documents/kinds';
import { patternHoles } from '@/core/shape/flange';
import { ChoiceField } from '@/ui/field/choice-field';
import { BareField, ControlRow, FieldRow } from '@/ui/field/field-row';

import type { MeasureName } from '@/core/units/measures';
import { SpanRow } from './caliper';
import styles from './flange.module.css';
import { msg } from './messages';

const PATTERN_WORDS: Readonly<Record<PatternKind, string>> = {
  pair: 'two holes',
  triangle: 'three, a triangle',
  rectangle: 'four, square or oblong',
  circle: 'on a circle',
  free: 'hole by hole',
};

/** A pattern of another kind that covers about the same ground. */
export function repattern(from: PatternDoc, kind: PatternKind): PatternDoc {
  const holes = patternHoles(from);
  const reach = (axis: 'x_m' | 'y_m'): number => Math.max(...holes.map((h) => h[axis])) - Math.min(...holes.map((h) => h[axis]));
  const wide = Math.max(reach('x_m'), 0.04);
  const high = Math.max(reach('y_m'), 0.04);
  switch (kind) {
    case 'pair':
      return { kind, span_m: wide, angle_rad: 0 };
    case 'rectangle':
      return { kind, width_m: wide, height_m: high };
    case 'triangle':
      return { kind, base_m: wide, height_m: high, baseBelow_m: high / 2 };
    case 'circle':
      return { kind, diameter_m: Math.hypot(wide, high), count: Math.max(3, holes.length), start_rad: Math.PI / 4 };
    case 'free':
      return { kind, holes };
  }
}

type IssueAt = (path: string, measure?: MeasureName) => string | undefined;

function FreeHoles({
  pattern,
  issueAt,
  onChange,
}: {
  pattern: Extract<PatternDoc, { kind: 'free' }>;
  issueAt: IssueAt;
  onChange: (p: PatternDoc) => void;
}) {
  const { holes } = pattern;
  const set = (i: number, axis: 'x_m' | 'y_m', v: number): void =>
    onChange({ kind: 'free', holes: holes.map((h, k) => (k === i ? { ...h, [axis]: v } : h)) });
  const wrongAt = (i: number, axis: 'x_m' | 'y_m'): string | undefined => issueAt(`pattern.holes.${i}.${axis}`, 'fineLength');
  return (
    <ControlRow label={msg.holesFromTheMiddleRightUp} wrong={issueAt('pattern') ?? issueAt('pattern.holes')}>
      {holes.map((h, i) => (
        <div key={i} className={styles['hole']}>
          <span className="quiet">{i + 1}</span>
          <BareField
            width="100%"
            label={`Hole ${i + 1} right`}
            measure="fineLength"
            value={h.x_m}
            wrong={wrongAt(i, 'x_m')}
            onChange={(v) => set(i, 'x_m', v)}
          />
          <BareField
            width="100%"
            label={`Hole ${i + 1} up`}
            measure="fineLength"
            value={h.y_m}
            wrong={wrongAt(i, 'y_m')}
            onChange={(v) => set(i, 'y_m', v)}
          />
          <Button
            type="text"
            size="small"
            aria-label={`Take hole ${i + 1} out`}
            disabled={holes.length <= 2}
            onClick={() => onChange({ kind: 'free', holes: holes.filter((_, k) => k !== i) })}
          >
            ×
          </Button>
        </div>
      ))}
      {holes.length < 12 && (
        <Button
          size="small"
          type="link"
          style={{ padding: 0 }}
          onClick={() => onChange({ kind: 'free', holes: [...holes, { x_m: -holes.at(-1)!.x_m, y_m: -holes.at(-1)!.y_m - 0.001 }] })}
        >
          {msg.anotherHole}
        </Button>
      )}
    </ControlRow>
  );
}

/** Where holes sit: by spacing, on a circle, or one by one; every spacing can come from a caliper. */
export function PatternFields({
  pattern: p,
  hole_m,
  issueAt,
  onChange,
}: {
  pattern: PatternDoc;
  hole_m: number;
  issueAt: IssueAt;
  onChange: (p: PatternDoc) => void;
}) {
  const span = (label: string, value: number, key: string, more: { fromSpan?: (s: number) => number; spanLabel?: string } = {}) => (
    <SpanRow
      label={label}
      value={value}
      hole_m={hole_m}
      wrong={issueAt(`pattern.${key}`, 'fineLength')}
      onChange={(v) => onChange({ ...p, [key]: v } as PatternDoc)}
      {...more}
    />
  );
  const angle = (label: string, value: number, key: string) => (
    <FieldRow
      label={label}
      measure="angle"
      value={value}
      wrong={issueAt(`pattern.${key}`, 'angle')}
      onChange={(v) => onChange({ ...p, [key]: v } as PatternDoc)}
    />
  );
  return (
    <>
      <ChoiceField<PatternKind>
        label={msg.holes}
        wrong={p.kind === 'free' ? undefined : issueAt('pattern')}
        value={p.kind}
        options={PATTERN_KINDS.map((value) => ({ value, label: PATTERN_WORDS[value] }))}
        onChange={(kind) => onChange(repattern(p, kind))}
      />
      {p.kind === 'pair' && (
        <>
          {span('Apart', p.span_m, 'span_m')}
          {angle('Turned by', p.angle_rad, 'angle_rad')}
        </>
      )}
      {p.kind === 'rectangle' && (
        <>
          {span('Apart across', p.width_m, 'width_m')}
          {span('Apart up', p.height_m, 'height_m')}
        </>
      )}
      {p.kind === 'triangle' && (
        <>
          {span('Base', p.base_m, 'base_m')}
          {span('Height', p.height_m, 'height_m')}
          <FieldRow
            label={msg.baseBelowTheBore}
            measure="fineLength"
            value={p.baseBelow_m}
            wrong={issueAt('pattern.baseBelow_m', 'fineLength')}
            onChange={(v) => onChange({ ...p, baseBelow_m: v })}
          />
        </>
      )}
      {p.kind === 'circle' && (
        <>
          <FieldRow
            label={msg.count}
            measure="count"
            value={p.count}
            wrong={issueAt('pattern.count')}
            onChange={(v) => onChange({ ...p, count: v })}
          />
          {span('Circle', p.diameter_m, 'diameter_m', {
            fromSpan: (s) => s / Math.sin(Math.PI / Math.max(2, p.count)),
            spanLabel: 'Two neighbours on the circle',
          })}
          {angle('First hole at', p.start_rad, 'start_rad')}
        </>
      )}
      {p.kind === 'free' && <FreeHoles pattern={p} issueAt={issueAt} onChange={onChange} />}
    </>
  );
}

/** What both sides of a joint have besides their holes: how far off the bore they sit, and the plate round them. */
export function FaceFields<F extends UnitFlangeDoc | ManifoldFlangeDoc>({
  flange,
  issueAt,
  onChange,
}: {
  flange: F;
  issueAt: IssueAt;
  onChange: (f: F) => void;
}) {
  const { offset, plate } = flange;
  const plateSide = (key: 'width_m' | 'height_m', label: string) => (
    <FieldRow
      label={label}
      measure="fineLength"
      value={plate?.[key] ?? null}
      placeholder={msg.notYet}
      wrong={issueAt(`plate.${key}`, 'fineLength')}
      onChange={(v) => onChange({ ...flange, plate: { width_m: v, height_m: v, ...plate, [key]: v } })}
      onClear={() => onChange({ ...flange, plate: null })}
    />
  );
  return (
    <>
      <FieldRow
        label={msg.holesOffTheBoreRight}
        measure="fineLength"
        value={offset.x_m}
        wrong={issueAt('offset.x_m', 'fineLength')}
        onChange={(v) => onChange({ ...flange, offset: { ...offset, x_m: v } })}
      />
      <FieldRow
        label={msg.holesOffTheBoreUp}
        measure="fineLength"
        value={offset.y_m}
        wrong={issueAt('offset.y_m', 'fineLength')}
        onChange={(v) => onChange({ ...flange, offset: { ...offset, y_m: v } })}
      />
      {plateSide('width_m', 'Plate across')}
      {plateSide('height_m', 'Plate up')}
    </>
  );
}
