'use client';

import { App, Button, Form, Input, Select } from 'antd';
import { parseAsFloat, parseAsString, useQueryState } from 'nuqs';
import { useMemo, useState } from 'react';
import { ledgerScore } from '@/core/compare/ledger';
import type { StoredPrediction } from '@/core/documents/prediction';
import type { BenchRecord, StoredPart, StoredUnit, TestedPartDoc } from '@/core/documents/unit';
import { rankBench } from '@/core/flow/bench-rank';
import { formatNumber, formatQuantity, formatSigned } from '@/core/units/quantity';
import { Heading, Rule, StopPage } from '@/ui/answer/stop-page';
import { ChoiceField } from '@/ui/field/choice-field';
import { issueText } from '@/core/documents/issue-text';
import { send } from '@/ui/post';
import { usePrefs } from '@/ui/theme/prefs';
import { WorkingProvider } from '@/ui/working/provider';
import { Chain } from './chain';
import { entriesOf, subjectId, subjectName, subjectRecords, type Subject } from './entries';
import { INCH_OF_WATER_Pa } from '@/core/units/units';
import { NewRecord } from './new-record';
import { Ranked } from './ranked';
import styles from './bench.module.css';
import { DataTable } from '@/ui/table/data-table';
import { Dialog } from '@/ui/dialog';
import { FormQuantity } from '@/ui/form/form-quantity';
import { zodRule } from '@/ui/form/zod-rule';
import { msg } from './messages';

function Ledger({ ledger }: { ledger: readonly StoredPrediction[] }) {
  const { pack } = usePrefs();
  const scores = useMemo(
    () =>
      // In shares of the reading, so that small and large parts weigh alike.
      ledgerScore(
        ledger.flatMap((p) =>
          p.measured === null || p.measured <= 0
            ? []
            : [{ source: p.source, predicted: p.predicted / p.measured, low: p.low / p.measured, high: p.high / p.measured, measured: 1 }],
        ),
      ),
    [ledger],
  );
  if (ledger.length === 0) return <p className="quiet">{msg.noGuessWrittenDownYetThe}</p>;
  return (
    <div className={styles['ledger']}>
      <table className="plain">
        <thead>
          <tr>
            <th>{msg.who}</th>
            <th className="num">{msg.guesses}</th>
            <th className="num">{msg.leansBy}</th>
            <th className="num">{msg.offBy}</th>
            <th className="num">{msg.insideOwnRange}</th>
          </tr>
        </thead>
        <tbody>
          {scores.map((s) => (
            <tr key={s.source}>
              <td>{s.source}</td>
              <td className="num">{s.count}</td>
              <td className="num">{formatSigned(100 * s.bias, 1, '%')}</td>
              <td className="num">{formatNumber(100 * s.meanAbsoluteError, 1)} %</td>
              <td className="num">{formatNumber(100 * s.hitRate, 0)} %</td>
            </tr>
          ))}
        </tbody>
      </table>
      <DataTable
        name="guesses"
        rows={ledger}
        rowKey={(p) => p.id}
        pagination={ledger.length > 10 ? { pageSize: 10, showSizeChanger: false } : false}
        columns={[
          { key: 'of', title: msg.ofWord, text: (p) => p.title, by: (p) => p.title },
          { key: 'by', title: msg.by, text: (p) => p.source, filter: (p) => p.source },
          {
            key: 'guessed',
            title: msg.guessed,
            numeric: true,
            by: (p) => p.predicted,
            text: (p) => formatQuantity(p.predicted, 'benchFlow', pack),
          },
          {
            key: 'read',
            title: msg.read,
            numeric: true,
            by: (p) => p.measured,
            text: (p) => (p.measured === null ? 'not read yet' : formatQuantity(p.measured, 'benchFlow', pack)),
          },
        ]}
      />
    </div>
  );
}

const PART_KINDS: readonly TestedPartDoc['kind'][] = ['air meter', 'filter', 'pipe', 'airbox', 'manifold', 'other'];

type PartFields = Pick<TestedPartDoc, 'name' | 'kind' | 'bore_m'>;
const FRESH_PART: PartFields = { name: '', kind: 'air meter', bore_m: 0.074 };

function NewPart({ onAdd, onClose }: { onAdd: (doc: TestedPartDoc) => Promise<void>; onClose: () => void }) {
  const { pack } = usePrefs();
  const [form] = Form.useForm<PartFields>();
  const add = (fields: PartFields): void => {
    onAdd({ schema: 1, ...fields, name: fields.name.trim(), bench: [], note: '' }).then(onClose, (e: unknown) =>
      form.setFields([{ name: 'name', errors: [e instanceof Error ? e.message : 'It could not be added.'] }]),
    );
  };
  const bore = zodRule(
    (checks) => checks.testedPartDoc.shape.bore_m,
    (issue) => issueText(issue, 'bore', pack),
  );
  return (
    <Dialog open title={msg.aPartToTest} okText={msg.addIt} onOk={form.submit} onCancel={onClose} width={420}>
      <Form<PartFields> form={form} layout="vertical" initialValues={FRESH_PART} scrollToFirstError={{ focus: true }} onFinish={add}>
        <Form.Item
          name="name"
          label={msg.name}
          required
          rules={[zodRule((checks) => checks.testedPartDoc.shape.name)]}
          validateTrigger="onSubmit"
        >
          <Input aria-label={msg.partName} autoFocus maxLength={80} onPressEnter={form.submit} />
        </Form.Item>
        <Form.Item name="kind" label={msg.itIsA}>
          <Select aria-label={msg.itIsA} options={PART_KINDS.map((value) => ({ value, label: value === 'air meter' ? 'MAF' : value }))} />
        </Form.Item>
        <Form.Item name="bore_m" label={msg.bore2} required rules={[bore]}>
          <FormQuantity label={msg.bore2} measure="bore" />
        </Form.Item>
      </Form>
    </Dialog>
  );
}

interface RoomData {
  readonly units: readonly StoredUnit[];
  readonly parts: readonly StoredPart[];
  readonly ledger: readonly StoredPrediction[];
  readonly jobs: readonly { id: string; name: string }[];
}

/** Bench: every flow record brought to one depression, judged against its ideal nozzle, ranked with those of its own bench. */
export function BenchRoom(data: RoomData) {
  return (
    <WorkingProvider>
      <Records {...data} />
    </WorkingProvider>
  );
}

function Records({ units: units0, parts: parts0, ledger: ledger0, jobs }: RoomData) {
  const { message } = App.useApp();
  const [units, setUnits] = useState(units0);
  const [parts, setParts] = useState(parts0);
  const [ledger, setLedger] = useState(ledger0);
  const [adding, setAdding] = useState(false);
  const [chosen, setChosen] = useQueryState('subject', parseAsString);
  const [inches, setInches] = useQueryState('at', parseAsFloat.withDefault(28));
  const at_Pa = inches * INCH_OF_WATER_Pa;
  const subjects: readonly Subject[] = useMemo(
    () => [...units.map((unit): Subject => ({ kind: 'unit', unit })), ...parts.map((part): Subject => ({ kind: 'part', part }))],
    [units, parts],
  );
  const groups = useMemo(() => rankBench(entriesOf(subjects), at_Pa), [subjects, at_Pa]);
  const subject = subjects.find((s) => subjectId(s) === chosen) ?? subjects.find((s) => subjectRecords(s).length === 0) ?? subjects[0];
  const all = groups.flatMap((g) => g.entries);
  const odd = all.filter((r) => r.rating !== 'ok');
  const top = groups[0]?.entries[0];
  const mergeLedger = (changed: readonly StoredPrediction[]): void =>
    setLedger((list) => [
      ...changed.filter((c) => !list.some((p) => p.id === c.id)),
      ...list.map((p) => changed.find((c) => c.id === p.id) ?? p),
    ]);
  const save = async (s: Subject, record: BenchRecord): Promise<void> => {
    if (s.kind === 'unit') {
      const doc = { ...s.unit.doc, bench: [record, ...s.unit.doc.bench] };
      const saved = await send<StoredUnit>('PUT', `/api/units/${s.unit.id}`, { version: s.unit.version, doc });
      setUnits((list) => list.map((u) => (u.id === saved.id ? saved : u)));
    } else {
      const doc = { ...s.part.doc, bench: [record, ...s.part.doc.bench] };
      const saved = await send<StoredPart>('PUT', `/api/parts/${s.part.id}`, { version: s.part.version, doc });
      setParts((list) => list.map((p) => (p.id === saved.id ? saved : p)));
    }
    message.success('Kept.');
  };
  const people = [...new Set(ledger.map((p) => p.source))].filter((s) => s !== 'the model');
  return (
    <StopPage
      wideAside
      answer={
        all.length === 0
          ? 'No flow records yet. Put something on the bench.'
          : `${all.length} flow records; ${odd.length === 0 ? 'all within what their bores can pass' : `${odd.length} ${odd.length === 1 ? 'is' : 'are'} doubtful against ${odd.length === 1 ? 'its' : 'their'} bore`}.`
      }
      reason={
        top
          ? `${top.name} passes most on ${top.bench}. Only records of one bench with one entry are put in an order: two benches disagree by more than two good parts do.`
          : 'A figure means nothing without its depression, its entry and its bench.'
      }
      aside={
        subject ? (
          <>
            <ChoiceField
              label={msg.onTheBench}
              showSearch
              optionFilterProp="label"
              value={subjectId(subject)}
              options={subjects.map((s) => ({ value: subjectId(s), label: subjectName(s) }))}
              onChange={(v) => void setChosen(v)}
            />
            <Button size="small" type="link" style={{ padding: 0 }} onClick={() => setAdding(true)}>
              {msg.anotherPartMeterFilterPipe}
            </Button>
            <Rule />
            <NewRecord
              key={subjectId(subject)}
              subject={subject}
              benches={[...new Set(all.map((r) => r.bench))]}
              people={people}
              onSave={(record) => save(subject, record)}
              onLedger={mergeLedger}
            />
          </>
        ) : (
          <Button onClick={() => setAdding(true)}>{msg.aPartToTest}</Button>
        )
      }
    >
      <Ranked
        groups={groups}
        inches={inches}
        setInches={(v) => void setInches(v)}
        chosen={subject ? subjectId(subject) : null}
        onSelect={(id) => void setChosen(id)}
      />
      <p className={styles['caution']}>{msg.aRatingEqualToTheDemand}</p>
      {jobs.length > 0 && <Chain jobs={jobs} units={units} />}
      <Heading>{msg.guessesAgainstReadings}</Heading>
      <Ledger ledger={ledger} />
      {adding && (
        <NewPart
          onClose={() => setAdding(false)}
          onAdd={async (doc) => {
            const added = await send<StoredPart>('POST', '/api/parts', doc);
            setParts((list) => [...list, added]);
            void setChosen(added.id);
          }}
        />
      )}
    </StopPage>
  );
}
