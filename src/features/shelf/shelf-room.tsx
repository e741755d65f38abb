'use client';

import { Button, Checkbox, Dropdown } from 'antd';
import { parseAsArrayOf, parseAsString, useQueryState } from 'nuqs';
import { useMemo, useState } from 'react';
import type { StoredUnit, UnitDoc } from '@/core/documents/unit';
import { presetJob } from '@/core/job/presets';
import { formatNumber, formatQuantity } from '@/core/units/quantity';
import { coarse, shownUnit } from '@/core/units/measures';
import { shapeWorking } from '@/core/working/bore-working';
import { Bores } from '@/features/pick/bores';
import { PedalChart } from '@/features/pick/pedal-chart';
import { HistoryButton } from '@/features/history/button';
import { Heading, StopPage } from '@/ui/answer/stop-page';
import { saveFile } from '@/ui/chart/save-file';
import { usePrefs } from '@/ui/theme/prefs';
import { Num, WorkingProvider } from '@/ui/working/provider';
import { useReported } from '@/ui/reported';
import type { CsvForm } from '@/core/export/csv';
import { shelfCsv, shelfJson } from './shelf-file';
import { CONTROL_WORDS, UnitEditor } from './unit-editor';
import { blankUnit } from '@/core/documents/blank';
import { unitFacts } from './unit-facts';
import { useShelfRoom, type ShelfState } from './use-shelf';
import styles from './shelf.module.css';
import { STARTER_SHELF } from '@/core/job/starter';
import { DataTable, type DataColumn } from '@/ui/table/data-table';
import { useUndo } from '@/ui/undo';
import { later } from '@/ui/later';
import { msg } from './messages';

const ImportShelf = later(() => import('./import-shelf').then((m) => m.ImportShelf));

const MOST_COMPARED = 4;

/** A new throttle: the geometry of a usual one, to be overwritten. */
function freshUnit(names: readonly string[]): UnitDoc {
  let n = 1;
  while (names.includes(`New throttle ${n}`)) n += 1;
  const { throttle } = presetJob('x', 'four, 2.0 L four-valve').car.stock;
  return blankUnit({ name: `New throttle ${n}`, throttle: { ...throttle, bore_m: 0.062 }, controls: 'cable' });
}

function boreText(u: UnitDoc, bore: (m: number) => string): string {
  const t = u.throttle;
  if (t.shape === 'oval') return `${bore(t.width_m ?? 0)} × ${bore(t.height_m ?? 0)}`;
  return t.count > 1 ? `${t.count} × ${bore(t.bore_m)}` : bore(t.bore_m);
}

/** What the shelf shows of a throttle, with what follows from its shape. */
function useShelfColumns(at: {
  readonly selected: string | undefined;
  readonly compared: readonly StoredUnit[];
  readonly onSelect: (id: string) => void;
  readonly onCompare: (id: string) => void;
}): readonly DataColumn<StoredUnit>[] {
  const { pack, money, palette } = usePrefs();
  const bore = (m: number): string => formatQuantity(m, 'bore', pack, coarse('bore', pack)).replace(/\s.*$/, '');
  const facts = (u: StoredUnit) => unitFacts(u.doc);
  return [
    {
      key: 'name',
      title: msg.throttleBody,
      text: (u) => u.doc.name,
      by: (u) => u.doc.name,
      fixed: 'left',
      render: (u) => {
        const k = at.compared.findIndex((c) => c.id === u.id);
        return (
          <>
            <Checkbox
              aria-label={`Compare ${u.doc.name}`}
              checked={k >= 0}
              disabled={k < 0 && at.compared.length >= MOST_COMPARED}
              onClick={(e) => e.stopPropagation()}
              onChange={() => at.onCompare(u.id)}
            />
            <i className="swatch" style={{ borderColor: k < 0 ? 'transparent' : palette.series[k % palette.series.length]! }} />
            <button type="button" className="row-name" aria-pressed={u.id === at.selected} onClick={() => at.onSelect(u.id)}>
              {u.doc.name}
            </button>
          </>
        );
      },
    },
    {
      key: 'bore',
      title: `bore, ${shownUnit('bore', pack).unit.label}`,
      numeric: true,
      text: (u) => boreText(u.doc, bore),
      by: (u) => facts(u)?.equalBore_m ?? null,
    },
    { key: 'controls', title: msg.controls, text: (u) => CONTROL_WORDS[u.doc.controls], filter: (u) => CONTROL_WORDS[u.doc.controls] },
    {
      key: 'area',
      title: msg.netArea,
      numeric: true,
      by: (u) => facts(u)?.net_m2 ?? null,
      text: (u) => {
        const f = facts(u);
        return f ? formatQuantity(f.net_m2, 'area', pack) : '—';
      },
      render: (u) => {
        const f = facts(u);
        return f ? (
          <Num small label={`area of ${u.doc.name}`} working={() => shapeWorking(u.doc.name, u.doc.throttle)}>
            {formatQuantity(f.net_m2, 'area', pack)}
          </Num>
        ) : (
          '—'
        );
      },
    },
    {
      key: 'leak',
      title: msg.closedLeak,
      numeric: true,
      by: (u) => facts(u)?.leak_kgps ?? null,
      text: (u) => {
        const f = facts(u);
        return f ? formatQuantity(f.leak_kgps, 'smallFlow', pack) : '—';
      },
    },
    {
      key: 'flow',
      title: msg.at28Inh2o,
      numeric: true,
      by: (u) => facts(u)?.at28_m3ps ?? null,
      text: (u) => {
        const flow = facts(u)?.at28_m3ps;
        return flow == null ? '—' : formatQuantity(flow, 'benchFlow', pack);
      },
    },
    {
      key: 'price',
      title: msg.price,
      numeric: true,
      by: (u) => u.doc.price,
      text: (u) => (u.doc.price === null ? '—' : money(u.doc.price)),
    },
    { key: 'note', title: msg.note, hidden: true, text: (u) => u.doc.note },
  ];
}

function Compare({ units }: { units: readonly StoredUnit[] }) {
  const { pack, palette, money } = usePrefs();
  const colors = palette.series;
  const sides = useMemo(
    () => units.map((u, i) => ({ id: u.id, name: u.doc.name, throttle: u.doc.throttle, color: colors[i % colors.length]!, dashed: false })),
    [units, colors],
  );
  const facts = units.map((u) => unitFacts(u.doc));
  const row = (name: string, value: (i: number) => string) => (
    <tr>
      <td>{name}</td>
      {units.map((u, i) => (
        <td key={u.id} className="num">
          {value(i)}
        </td>
      ))}
    </tr>
  );
  const widest = Math.max(...facts.map((f) => f?.equalBore_m ?? 0));
  return (
    <>
      <Heading>{msg.sideBySide}</Heading>
      <div className={styles['compare']}>
        <Bores
          sides={units.map((u, i) => ({
            id: u.id,
            name: u.doc.name,
            fitted: { throttle: u.doc.throttle, opening_m: 0 },
            color: colors[i % colors.length]!,
            dashed: false,
          }))}
          opening_m={widest * 0.001}
        />
        <table className="plain">
          <thead>
            <tr>
              <td />
              {units.map((u, i) => (
                <th key={u.id} className="num" style={{ color: colors[i % colors.length] }}>
                  {u.doc.name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {row('net area', (i) => (facts[i] ? formatQuantity(facts[i].net_m2, 'area', pack) : '—'))}
            {row('as one round bore', (i) => (facts[i] ? formatQuantity(facts[i].equalBore_m, 'bore', pack) : '—'))}
            {row('blade edge', (i) => (facts[i] ? formatQuantity(facts[i].perimeter_m, 'length', pack) : '—'))}
            {row('closed leak', (i) => (facts[i] ? formatQuantity(facts[i].leak_kgps, 'smallFlow', pack) : '—'))}
            {row('bench, at 28 inH₂O', (i) =>
              facts[i]?.at28_m3ps == null ? 'no record' : formatQuantity(facts[i].at28_m3ps, 'benchFlow', pack),
            )}
            {row('of its ideal nozzle', (i) => (facts[i]?.ratio == null ? '—' : `${formatNumber(100 * facts[i].ratio, 0)} %`))}
            {row('price', (i) => (units[i]!.doc.price === null ? '—' : money(units[i]!.doc.price)))}
          </tbody>
        </table>
      </div>
      <PedalChart sides={sides} height={240} />
    </>
  );
}

const SAVE_WORDS = {
  saved: 'saved',
  unsaved: 'not saved yet',
  saving: 'saving …',
  refused: 'not saved',
  conflict: 'changed elsewhere',
} as const;

function SaveLine({ shelf }: { shelf: ShelfState }) {
  if (shelf.save === 'saved') return <p className={`quiet ${styles['saved']}`}>{msg.saved}</p>;
  return (
    <p role="status" className={`${shelf.save === 'refused' || shelf.save === 'conflict' ? styles['wrong'] : 'quiet'} ${styles['saved']}`}>
      {SAVE_WORDS[shelf.save]}
      {shelf.wrong ? `: ${shelf.wrong}` : ''}
      {shelf.save === 'conflict' && (
        <span className={styles['tools']}>
          <Button size="small" onClick={shelf.takeTheirs}>
            {msg.takeTheirs}
          </Button>
          <Button size="small" onClick={shelf.keepMine}>
            {msg.keepMine}
          </Button>
        </span>
      )}
    </p>
  );
}

/** Shelf: every throttle body the shop knows, with what follows from its shape; any four side by side. */
export function ShelfRoom({ initial }: { initial: readonly StoredUnit[] }) {
  return (
    <WorkingProvider>
      <Units initial={initial} />
    </WorkingProvider>
  );
}

function Units({ initial }: { initial: readonly StoredUnit[] }) {
  const shelf = useShelfRoom(initial);
  const undo = useUndo();
  const [unitId, setUnitId] = useQueryState('unit', parseAsString);
  const [compared, setCompared] = useQueryState('compare', parseAsArrayOf(parseAsString).withDefault([]));
  const [importing, setImporting] = useState(false);
  const { units } = shelf;
  const selected = units.find((u) => u.id === unitId) ?? units[0];
  const side = compared.flatMap((id) => units.filter((u) => u.id === id)).slice(0, MOST_COMPARED);
  const reported = useReported();
  const records = units.filter((u) => u.doc.bench.length > 0).length;
  const columns = useShelfColumns({
    selected: selected?.id,
    compared: side,
    onSelect: (id) => void setUnitId(id),
    onCompare: (id) => void setCompared(compared.includes(id) ? compared.filter((x) => x !== id) : [...compared, id]),
  });
  const docs = units.map((u) => u.doc);
  return (
    <StopPage
      wideAside
      answer={
        units.length === 0
          ? 'The shelf is empty. Put a throttle on it, or import a file.'
          : `${units.length} throttle bodies on the shelf, ${records} of them measured on a bench.`
      }
      reason={msg.tickUpToFourToSet}
      aside={
        selected ? (
          <>
            <SaveLine shelf={shelf} />
            <UnitEditor unit={selected} onChange={(doc) => shelf.edit(selected.id, doc)} />
            <div className={styles['tools']}>
              <Button size="small" onClick={() => void reported(async () => void setUnitId((await shelf.duplicate(selected.id)).id))}>
                {msg.duplicate}
              </Button>
              <HistoryButton kind="unit" id={selected.id} title={selected.doc.name} />
              <Button
                size="small"
                danger
                onClick={() =>
                  void reported(async () => {
                    await shelf.retire(selected.id);
                    undo(`${selected.doc.name} is off the shelf; jobs that speak of it keep it.`, () =>
                      reported(() => shelf.restore(selected)),
                    );
                  })
                }
              >
                {msg.removeFromTheShelf}
              </Button>
            </div>
          </>
        ) : (
          <p className="quiet">{msg.nothingToOpenYet}</p>
        )
      }
    >
      <div className={styles['bar']}>
        <Button
          type="primary"
          onClick={() => void reported(async () => void setUnitId((await shelf.add([freshUnit(docs.map((d) => d.name))]))[0]!.id))}
        >
          {msg.newThrottle}
        </Button>
        <Button onClick={() => setImporting(true)}>{msg.fromAFile}</Button>
        <Dropdown
          trigger={['click']}
          menu={{
            items: [
              { key: 'plain', label: msg.csvARowAThrottle },
              { key: 'spreadsheet', label: msg.csvForASpreadsheet },
              { key: 'decimal comma', label: msg.csvDecimalCommas },
              { key: 'json', label: msg.jsonEverything },
            ],
            onClick: ({ key }) =>
              key === 'json'
                ? saveFile('shelf.json', shelfJson(docs), 'application/json')
                : saveFile('shelf.csv', shelfCsv(docs, key as CsvForm), 'text/csv'),
          }}
        >
          <Button disabled={units.length === 0}>{msg.exportAsAFile}</Button>
        </Dropdown>
      </div>
      {side.length > 1 && <Compare units={side} />}
      <div className={styles['list']}>
        <DataTable
          name="shelf"
          rows={units}
          columns={columns}
          rowKey={(u) => u.id}
          row={(u) => ({ 'data-selected': u.id === selected?.id, 'data-found': u.id, onClick: () => void setUnitId(u.id) })}
          empty={
            <div className={styles['emptyShelf']}>
              <p>{msg.throttleBodiesStandHereWithTheir}</p>
              <Button onClick={() => void reported(() => shelf.add(STARTER_SHELF))}>{msg.putTheStarterShelfOn}</Button>
              <p className="quiet">{msg.fourteenMadeUpGenericSizesTo}</p>
            </div>
          }
        />
      </div>
      {importing && <ImportShelf existing={docs.map((d) => d.name)} onTake={shelf.add} onClose={() => setImporting(false)} />}
    </StopPage>
  );
}
