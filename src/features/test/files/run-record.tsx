'use client';

import { Button, Input, Select } from 'antd';
import { useEffect, useState } from 'react';
import type { ChannelMap, Quantity, RunDoc, StoredColumn, StoredRun } from '@/core/documents/run';
import { issuesOf } from '@/core/documents/issue';
import { issueLine } from '@/core/documents/issue-text';
import { QUANTITIES } from '@/core/documents/kinds';
import { peakIndex } from '@/core/numbers/peak';
import { DOUBT_WORDS } from '@/core/read/doubt-words';
import { dimensionOf, likelyUnit } from '@/core/read/guess';
import type { ImportReport } from '@/core/read/result';
import { formatNumber, formatQuantity } from '@/core/units/quantity';
import { ownUnits } from '@/core/units/units';
import { checksSoon } from '@/ui/checks';
import { failureText } from '@/ui/answer/words';
import { send } from '@/ui/post';
import { usePrefs } from '@/ui/theme/prefs';
import { usePreview } from '../dyno/use-preview';
import { HistoryButton } from '@/features/history/button';
import { Heading } from '@/ui/answer/stop-page';
import { ControlRow } from '@/ui/field/field-row';
import { FieldGroup } from '@/ui/field/group';
import styles from '../test.module.css';
import filesStyles from './files.module.css';
import { reportText } from './report-text';
import { Conditions } from './run-conditions';
import { Dialog } from '@/ui/dialog';
import { msg } from './messages';

const changed = (run: StoredRun, map: ChannelMap): boolean => {
  const before = run.doc.channels.find((c) => c.column === map.column);
  return before?.quantity !== map.quantity || before.unit !== map.unit;
};

/** How sure the reader was of a column, until a person says. */
function Sureness({ column, quantity, changed: byHand }: { column: StoredColumn | undefined; quantity: Quantity; changed: boolean }) {
  if (byHand) return <span className={filesStyles['sure']}> {msg.asYouSay}</span>;
  if (column?.remembered && quantity !== 'other') return <span className={filesStyles['sure']}> {msg.asSaidForAnEarlierFile}</span>;
  if (!column?.doubt)
    return column?.made ? (
      <span className={filesStyles['unsure']}>
        {' '}
        {msg.madeByTheReader} {column.made}
      </span>
    ) : null;
  return <span className={filesStyles['unsure']}> {(DOUBT_WORDS as Readonly<Record<string, string>>)[column.doubt] ?? column.doubt}</span>;
}

/** What the file becomes with the record as it stands here, before it is saved. */
function Effect({ run, doc }: { run: StoredRun; doc: RunDoc }) {
  const { pack } = usePrefs();
  const made = usePreview(run, doc);
  if (doc.kind !== 'dyno' || made === null) return null;
  if (made.failure)
    return (
      <p className={styles['wrong']} role="status">
        {failureText(made.failure, pack)}
      </p>
    );
  const top = peakIndex(made.power_W);
  return (
    <p className={filesStyles['effect']} role="status">
      {msg.soItMakes} {formatQuantity(made.power_W[top] ?? 0, 'power', pack)} {msg.at} {formatNumber(made.rpm[top] ?? 0, 0)} {msg.rpm}{' '}
      {made.correction === 'none' ? 'uncorrected' : made.correction === 'unknown' ? 'in a correction not known' : `in ${made.correction}`}
      {msg.thePullHas} {made.swept.toLocaleString('en-US')} {msg.ofTheFiles} {made.samples.toLocaleString('en-US')} {msg.samples}
      {made.inletAirStart_K === null ? '' : `, inlet air ${formatQuantity(made.inletAirStart_K, 'temperature', pack)} at its start`}.
    </p>
  );
}

function Mapping({ run, doc, onChange }: { run: StoredRun; doc: RunDoc; onChange: (doc: RunDoc) => void }) {
  const setChannel = (column: number, quantity: Quantity, unit: string | null): void => {
    // One column a quantity: the one that had it before becomes "other", a power that stands back a further one.
    const channels = doc.channels.map((c) => {
      if (c.column === column) return { ...c, quantity, unit };
      if (quantity === 'other' || quantity === 'further power' || quantity === 'further torque' || c.quantity !== quantity) return c;
      const further = { power: 'further power', torque: 'further torque' } as const;
      return quantity in further ? { ...c, quantity: further[quantity as 'power'] } : { ...c, quantity: 'other' as const, unit: null };
    });
    onChange({ ...doc, channels });
  };
  const [all, setAll] = useState(false);
  const known = doc.channels.filter((c) => c.quantity !== 'other' || run.columns[c.column]?.ask);
  const shown =
    all || doc.channels.length <= MOST_SHOWN
      ? doc.channels
      : [...known, ...doc.channels.filter((c) => !known.includes(c))].slice(0, MOST_SHOWN);
  return (
    <table className={`plain ${filesStyles['mapping']}`}>
      <thead>
        <tr>
          <th>{msg.columnInTheFile}</th>
          <th className="num">{msg.figures}</th>
          <th>{msg.is}</th>
          <th>{msg.inWord}</th>
        </tr>
      </thead>
      <tbody>
        {shown.map((c) => {
          const column = run.columns[c.column];
          const dimension = dimensionOf(c.quantity);
          return (
            <tr key={c.column}>
              <td>
                {column?.name} {column?.unit && <span className="quiet">({column.unit})</span>}
                <Sureness column={column} quantity={c.quantity} changed={changed(run, c)} />
              </td>
              <td className="num">{column?.count.toLocaleString('en-US')}</td>
              <td>
                <Select
                  virtual={false}
                  listHeight={420}
                  aria-label={`${column?.name} is`}
                  size="small"
                  style={{ width: 160 }}
                  value={c.quantity}
                  options={QUANTITIES.map((q) => ({ value: q, label: q === 'rpm' ? 'engine speed' : q }))}
                  onChange={(q) => setChannel(c.column, q, likelyUnit(q, column?.high ?? 0, column?.low))}
                />
              </td>
              <td>
                {dimension && dimension !== 'plain' && (
                  <Select
                    virtual={false}
                    aria-label={`${column?.name} in`}
                    size="small"
                    style={{ width: 96 }}
                    value={c.unit}
                    placeholder={msg.which}
                    status={c.unit === null ? 'warning' : ''}
                    options={ownUnits(dimension).map((u) => ({ value: u.id, label: u.label }))}
                    onChange={(u) => setChannel(c.column, c.quantity, u)}
                  />
                )}
              </td>
            </tr>
          );
        })}
        {shown.length < doc.channels.length && (
          <tr>
            <td colSpan={4}>
              <Button size="small" onClick={() => setAll(true)}>
                {msg.showAll} {doc.channels.length.toLocaleString('en-US')} {msg.columns}
              </Button>
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}

/** Columns listed at once: a logger of a thousand channels would hold the dialog up. */
const MOST_SHOWN = 60;

/** What the reader made of the file, line by line where something was left out, and ways to take the run along. */
function ReportOf({ run }: { run: StoredRun }) {
  const [report, setReport] = useState<ImportReport | null>(null);
  useEffect(() => {
    let current = true;
    send<ImportReport>('GET', `/api/runs/${run.id}/report`)
      .then((r) => current && setReport(r))
      // The record itself stands without it.
      .catch(() => {});
    return () => {
      current = false;
    };
  }, [run.id]);
  if (!report) return null;
  return (
    <>
      <Heading
        more={
          <span className={styles['takers']}>
            <a href={`/api/v1/runs/${run.id}?format=csv`}>{msg.csv}</a>
            <a href={`/api/v1/runs/${run.id}`} download={`${run.doc.name}.json`}>
              {msg.json}
            </a>
            <a href={`/api/runs/${run.id}/original`}>{msg.originalFile}</a>
            <HistoryButton kind="run" id={run.id} title={run.doc.name} />
          </span>
        }
      >
        {msg.whatWasRead}
      </Heading>
      <p className="quiet">{reportText(report)}</p>
      {report.skipped.length > 0 && (
        <ul className={filesStyles['skipped']}>
          {report.skipped.map((s) => (
            <li key={s.line}>
              {msg.line} {s.line}, {s.reason}: <code>{s.text || '(nothing)'}</code>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

/** A run's record: what its columns are, what its figures carry, and the conditions it was taken in. */
export function RunRecord({ run, onClose, onSave }: { run: StoredRun; onClose: () => void; onSave: (doc: RunDoc) => Promise<void> }) {
  const [doc, setDoc] = useState(run.doc);
  const { pack } = usePrefs();
  const [wrong, setWrong] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const save = async (): Promise<void> => {
    setBusy(true);
    try {
      const checks = await checksSoon();
      const issues = checks?.checkedChange(checks.runDoc, run.doc, doc).error;
      if (issues) throw new Error(issueLine(issuesOf(issues)[0]!, pack));
      await onSave(doc);
    } catch (error) {
      setWrong((error as Error).message);
      setBusy(false);
    }
  };
  return (
    <FieldGroup>
      {(unread) => (
        <Dialog
          open
          title={`Details of ${run.fileName}`}
          width={820}
          okText={msg.save}
          onOk={() => void save()}
          confirmLoading={busy}
          okButtonProps={{ disabled: unread }}
          onCancel={onClose}
        >
          <ControlRow label={msg.name}>
            <Input
              aria-label={msg.nameOfTheRun}
              value={doc.name}
              maxLength={120}
              onChange={(e) => setDoc({ ...doc, name: e.target.value })}
            />
          </ControlRow>
          <ControlRow label={msg.itIs}>
            <Select
              aria-label={msg.kindOfRun}
              style={{ width: '100%' }}
              value={doc.kind}
              options={[
                { value: 'dyno', label: msg.aDynoRun },
                { value: 'log', label: msg.aLogFromTheCar },
              ]}
              onChange={(kind) => setDoc({ ...doc, kind })}
            />
          </ControlRow>
          <Effect run={run} doc={doc} />
          <Heading>{msg.columns2}</Heading>
          <div style={{ maxHeight: 250, overflow: 'auto' }}>
            <Mapping run={run} doc={doc} onChange={setDoc} />
          </div>
          <Heading>{msg.conditions}</Heading>
          <Conditions doc={doc} onChange={setDoc} />
          <ReportOf run={run} />
          {wrong && (
            <p className={styles['wrong']} role="alert">
              {wrong}
            </p>
          )}
        </Dialog>
      )}
    </FieldGroup>
  );
}
