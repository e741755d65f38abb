'use client';

import { Button, Input, Segmented, Select } from 'antd';
import { useState, type DragEvent } from 'react';
import type { JobDoc } from '@/core/documents/job';
import { issueLine } from '@/core/documents/issue-text';
import {
  CURVE_KINDS,
  mendCurve,
  readCurve,
  type CurveIssue,
  type CurveKind,
  type CurveQuestion,
  type CurveRefusal,
  type CurveSaid,
  type CurveTable,
} from '@/core/read/curve-table';
import { formatNumber, formatQuantity } from '@/core/units/quantity';
import type { MeasureName } from '@/core/units/measures';
import { useJob } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop-page';
import { isVacuum, ownUnits } from '@/core/units/units';
import { ChoiceField } from '@/ui/field/choice-field';
import { ControlRow, FieldRow } from '@/ui/field/field-row';
import { tableTextOf } from '@/ui/file-text';
import { usePrefs } from '@/ui/theme/prefs';
import { OneBoost } from './one-boost';
import styles from './car.module.css';
import { Dialog } from '@/ui/dialog';
import { msg } from './messages';

const KIND: Readonly<Record<CurveKind, { name: string; wants: string; measure: MeasureName }>> = {
  power: { name: 'power', wants: 'rpm and power (or torque), at the crank', measure: 'power' },
  boost: { name: 'boost', wants: 'rpm and gauge boost, with the stock throttle', measure: 'plenum' },
  air: { name: 'MAF', wants: 'rpm and air mass flow', measure: 'massFlow' },
};

const MOST_ISSUES = 6;

function issueText(issue: CurveIssue): string {
  switch (issue.code) {
    case 'twice':
      return `Row ${issue.row}: ${formatNumber(issue.rpm, 0)} rpm stands there already, in row ${issue.first}.`;
    case 'falling':
      return `Row ${issue.row}: ${formatNumber(issue.rpm, 0)} rpm comes after ${formatNumber(issue.before, 0)}; engine speed should rise from row to row.`;
    case 'no_figure':
      return `Row ${issue.row}: a cell holds no figure.`;
    case 'below_zero':
      return `Row ${issue.row}: the figure is below zero.`;
  }
}

function refusalText(r: CurveRefusal, kind: CurveKind): string {
  const found = r.columns.length > 0 ? ` Found: ${r.columns.join(', ')}.` : '';
  const wants = `Needed: ${KIND[kind].wants}.`;
  switch (r.refused) {
    case 'empty':
      return `Nothing there yet. ${wants}`;
    case 'not_a_table':
      return `This is not a table of figures. Paste two columns from a spreadsheet or drop a CSV file. ${wants}`;
    case 'one_column':
      return `Only one column of figures.${found} ${wants}`;
    case 'rpm_unit':
      return `In which unit is the engine speed? Write it into its name, as in “rpm” or “engine speed (Hz)”.${found}`;
    case 'no_rpm':
      return `No column is engine speed.${found} Name one "rpm".`;
    case 'no_value':
      return `No column is ${KIND[kind].name}.${found} ${wants}`;
    case 'too_few':
      return kind === 'boost' ? 'No row can be read.' : 'Fewer than two rows can be read.';
  }
}

/** What the table does not say, asked before anything is taken. */
function Question({ question, said, onSay }: { question: CurveQuestion; said: CurveSaid; onSay: (more: CurveSaid) => void }) {
  switch (question.code) {
    case 'unit':
      return (
        <ControlRow label={`“${question.column}” is in`}>
          <Select
            aria-label={msg.unitOfTheColumn}
            style={{ width: '100%' }}
            placeholder={msg.theTableDoesNotSayWhich}
            value={said.unit ?? null}
            options={ownUnits(question.dimension)
              .filter((u) => !isVacuum(u))
              .map((u) => ({ value: u.id, label: u.label }))}
            onChange={(unit: string) => onSay({ unit })}
          />
        </ControlRow>
      );
    case 'reference':
      return (
        <ControlRow label={`“${question.column}” is`}>
          <Select
            aria-label={msg.gaugeOrAbsolute}
            style={{ width: '100%' }}
            placeholder={msg.itStartsAtTheAirOutside}
            value={said.reference ?? null}
            options={[
              { value: 'gauge', label: msg.gaugeAboveTheAirOutside },
              { value: 'absolute', label: msg.absoluteTheAirOutsideCountedIn },
            ]}
            onChange={(reference: 'gauge' | 'absolute') => onSay({ reference })}
          />
        </ControlRow>
      );
    case 'loss':
      return (
        <FieldRow
          label={msg.drivetrainLoss}
          measure="share"
          value={said.lossShare ?? null}
          placeholder={msg.thisCurveIsAtTheWheels}
          within={{ least: 0, less: 0.6 }}
          onChange={(lossShare) => onSay({ lossShare })}
        />
      );
  }
}

/** Pasting or dropping one measured curve; what is odd is shown before anything is taken. */
function PasteCurve({ kind, onClose }: { kind: CurveKind; onClose: () => void }) {
  const { pack } = usePrefs();
  const change = useJob((s) => s.change);
  const [text, setText] = useState('');
  const [source, setSource] = useState('pasted');
  const [wrong, setWrong] = useState<string | null>(null);
  const [said, setSaid] = useState<CurveSaid>({});
  const ambient_Pa = useJob((s) => s.doc.car.weather?.p_Pa);
  const read = text.trim() === '' ? null : readCurve(text, kind, { ...said, ambient_Pa });
  const table: CurveTable | null = read && !('refused' in read) ? read : null;
  const take = (): void => {
    if (!table) return;
    const curve = mendCurve(
      table,
      said.lossShare === undefined ? source : `${source}, wheels with ${formatNumber(100 * said.lossShare, 0)} % loss`,
    );
    const issue = change((doc) => withCurve(doc, kind, curve));
    if (issue) setWrong(issueLine(issue, pack));
    else onClose();
  };
  const drop = (e: DragEvent): void => {
    const file = e.dataTransfer.files[0];
    if (!file) return;
    e.preventDefault();
    setSource(file.name);
    setSaid({});
    void tableTextOf(file).then(setText, (error: Error) => setWrong(error.message));
  };
  const questions = table?.questions ?? [];
  const issues = table?.issues ?? [];
  const first = table?.rows.find((r) => Number.isFinite(r.value));
  return (
    <Dialog
      open
      title={`Measured ${KIND[kind].name}`}
      onCancel={onClose}
      onOk={take}
      okText={issues.length > 0 ? 'Take it sorted, equal rpm averaged, empty rows left out' : 'Take it'}
      okButtonProps={{ disabled: !table || questions.length > 0 }}
      width={620}
    >
      <p className="quiet">
        {msg.paste} {KIND[kind].wants}
        {msg.orDropAFileHereColumns}
      </p>
      <div onDrop={drop} onDragOver={(e) => e.preventDefault()}>
        <Input.TextArea
          aria-label={msg.table}
          rows={9}
          value={text}
          placeholder={
            kind === 'power'
              ? 'rpm\tpower (hp)\n2000\t61\n2500\t80\n…'
              : kind === 'boost'
                ? 'rpm,boost (psi)\n2000,4.1\n…'
                : 'rpm;air mass flow (g/s)\n2000;38,2\n…'
          }
          onChange={(e) => {
            setText(e.target.value);
            setSaid({});
          }}
          style={{ fontFamily: 'monospace' }}
        />
      </div>
      {read && 'refused' in read && (
        <p role="alert" style={{ color: 'var(--danger)' }}>
          {refusalText(read, kind)}
        </p>
      )}
      {wrong && <p role="alert">{wrong}</p>}
      {questions.map((q) => (
        <Question key={q.code} question={q} said={said} onSay={(more) => setSaid((s) => ({ ...s, ...more }))} />
      ))}
      {table && questions.every((q) => q.code !== 'unit') && (
        <p style={{ marginTop: 8 }}>
          {table.rows.length} {msg.rows} {table.rpmColumn || 'first column'} {msg.and} {table.valueColumn || 'second column'},{' '}
          {table.unit || 'no unit'}
          {table.fromTorque ? ', turned into power' : ''}
          {table.fromAbsolute ? `, absolute: ${formatQuantity(ambient_Pa ?? 101_325, 'barometer', pack)} of air outside taken off` : ''}
          {table.doubt === 'unit by power and torque' ? ', its unit found by power = torque × speed' : ''}
          {first ? `; the first is ${formatQuantity(first.value, KIND[kind].measure, pack)} at ${formatNumber(first.rpm, 0)} rpm` : ''}.
        </p>
      )}
      {issues.length > 0 && (
        <ul role="alert" className={styles['issues']}>
          {issues.slice(0, MOST_ISSUES).map((i) => (
            <li key={`${i.code}${i.row}`}>{issueText(i)}</li>
          ))}
          {issues.length > MOST_ISSUES && (
            <li>
              {msg.and} {issues.length - MOST_ISSUES} {msg.moreLikeThese}
            </li>
          )}
        </ul>
      )}
    </Dialog>
  );
}

/** The job with a curve measured, and used: that is why it was pasted. */
function withCurve(doc: JobDoc, kind: CurveKind, curve: JobDoc['car']['measured'][CurveKind]): JobDoc {
  const { car } = doc;
  const blown = car.induction.kind === 'drawThrough';
  const ambientVe = car.induction.kind === 'na' || car.induction.kind === 'individual';
  const from = { ...car.from };
  if (curve === null) {
    if (from.efficiency === kind) from.efficiency = 'table';
    if (kind === 'power') from.power = 'estimate';
  } else if (kind === 'power') from.power = 'measured';
  else if (kind === 'boost' && blown) from.efficiency = 'boost';
  else if (kind === 'air' && ambientVe) from.efficiency = 'air';
  return { ...doc, car: { ...car, measured: { ...car.measured, [kind]: curve }, from } };
}

/** Curves measured on the car, and what the reference stands on: a table, or one of them. */
export function Measured() {
  const { pack } = usePrefs();
  const measured = useJob((s) => s.doc.car.measured);
  const from = useJob((s) => s.doc.car.from);
  const kind = useJob((s) => s.doc.car.induction.kind);
  const set = useJob((s) => s.set);
  const change = useJob((s) => s.change);
  const ambient_Pa = useJob((s) => s.doc.car.weather.p_Pa);
  const [open, setOpen] = useState<CurveKind | null>(null);
  const ambient = kind === 'na' || kind === 'individual';
  const offered = CURVE_KINDS.filter((k) => k === 'power' || (k === 'boost' ? kind === 'drawThrough' : true));
  const sources = [
    { value: 'table', label: msg.theTable },
    ...(ambient && measured.power ? [{ value: 'power', label: msg.measuredPower }] : []),
    ...(ambient && measured.air ? [{ value: 'air', label: msg.theMaf }] : []),
    ...(kind === 'drawThrough' && measured.boost ? [{ value: 'boost', label: msg.measuredBoost }] : []),
  ];
  return (
    <>
      <Heading>{msg.measuredOnThisCar}</Heading>
      {offered.map((k) => {
        const curve = measured[k];
        const top = curve ? Math.max(...curve.value) : 0;
        return (
          <div key={k} className={styles['measured']}>
            <span>
              {KIND[k].name}{' '}
              <span className="quiet">
                {curve
                  ? `${curve.rpm.length === 1 ? 'one reading,' : `${curve.rpm.length} points to`} ${formatQuantity(top, KIND[k].measure, pack)}, ${curve.source}`
                  : 'not yet'}
              </span>
            </span>
            <span>
              <Button size="small" onClick={() => setOpen(k)} aria-label={`${curve ? 'Replace' : 'Paste'} ${KIND[k].name}`}>
                {curve ? 'replace' : 'paste or drop'}
              </Button>
              {curve && (
                <Button
                  size="small"
                  type="text"
                  aria-label={`Take ${KIND[k].name} out`}
                  onClick={() => change((doc) => withCurve(doc, k, null))}
                >
                  {msg.takeOut}
                </Button>
              )}
            </span>
          </div>
        );
      })}
      {kind === 'drawThrough' && !measured.boost && (
        <OneBoost ambient_Pa={ambient_Pa} onTake={(curve) => change((doc) => withCurve(doc, 'boost', curve))} />
      )}
      {sources.length > 1 && (
        <ChoiceField label={msg.efficiencyFrom} value={from.efficiency} options={sources} onChange={(v) => set('car.from.efficiency', v)} />
      )}
      {measured.power && (
        <ControlRow label={msg.powerFrom}>
          <Segmented
            aria-label={msg.powerFrom}
            size="small"
            value={from.power}
            options={[
              { value: 'estimate', label: msg.itsAir },
              { value: 'measured', label: msg.measured },
            ]}
            onChange={(v) => set('car.from.power', v)}
          />
        </ControlRow>
      )}
      {open && <PasteCurve kind={open} onClose={() => setOpen(null)} />}
    </>
  );
}
