'use client';

import { CopyOutlined, DownloadOutlined, TableOutlined } from '@ant-design/icons';
import { App, Button, Checkbox, Popover, Table, Tooltip, type TableColumnType, type TableProps } from 'antd';
import { useEffect, useMemo, useRef, useState, type Key, type ReactNode } from 'react';
import { CSV_FORMS } from '@/core/export/csv';
import { saveFile } from '@/ui/chart/save-file';
import { useListens } from '@/ui/listens';
import { WhenListening } from '@/ui/when-listening';
import { rowsAsCsv, rowsAsTabs } from './rows-text';
import styles from './table.module.css';
import { msg } from './messages';

export interface DataColumn<T> {
  readonly key: string;
  readonly title: string;
  /** What is copied, saved and, unless it is drawn otherwise, shown. */
  readonly text: (row: T) => string;
  readonly render?: (row: T, index: number) => ReactNode;
  /** What the head shows where that is more than its title. */
  readonly head?: ReactNode;
  /** Sorts by this; missing: it cannot be sorted by. */
  readonly by?: (row: T) => number | string | null;
  /** Offers these values to filter by. */
  readonly filter?: (row: T) => string;
  readonly numeric?: boolean;
  readonly width?: number;
  /** Stays in view while the rest scrolls sideways. */
  readonly fixed?: 'left' | 'right';
  /** Left out where a page is narrow. */
  readonly wide?: boolean;
  /** Tools and the like: always shown, never copied. */
  readonly tool?: boolean;
  /** Not shown until it is chosen. */
  readonly hidden?: boolean;
}

export interface DataTableProps<T extends object> {
  /** What the table is, for the file's name and for those who hear it. */
  readonly name: string;
  readonly rows: readonly T[];
  readonly columns: readonly DataColumn<T>[];
  readonly rowKey: (row: T) => string;
  readonly selected?: readonly string[];
  readonly onSelect?: (keys: readonly string[]) => void;
  readonly row?: (row: T, index: number) => React.HTMLAttributes<HTMLElement> & Record<`data-${string}`, string | boolean | undefined>;
  /** Rows in a window of this height, drawn as they come into it: for thousands. */
  readonly window_px?: number;
  readonly tools?: ReactNode;
  readonly empty?: ReactNode;
  readonly pagination?: TableProps<T>['pagination'];
  readonly onChange?: TableProps<T>['onChange'];
  /** The order that the rows are in already, where somebody else sorts them. */
  readonly sorted?: { readonly key: string; readonly up: boolean };
  readonly components?: TableProps<T>['components'];
  /** No column chooser, copy or file: for short tables. */
  readonly bare?: boolean;
}

/** Nothing comes after every figure, whichever way it is sorted. */
export function compareBy<T>(by: (row: T) => number | string | null) {
  return (a: T, b: T, order?: 'ascend' | 'descend' | null): number => {
    const [x, y] = [by(a), by(b)];
    const last = order === 'descend' ? -1 : 1;
    if (x === null || y === null) return x === y ? 0 : x === null ? last : -last;
    return typeof x === 'number' && typeof y === 'number' ? x - y : String(x).localeCompare(String(y), undefined, { numeric: true });
  };
}

function columnOf<T>(c: DataColumn<T>, rows: readonly T[], sorted: DataTableProps<object>['sorted']): TableColumnType<T> {
  const values = c.filter ? [...new Set(rows.map(c.filter))].filter((v) => v !== '').sort() : [];
  return {
    key: c.key,
    title: c.head ?? (c.title === '' ? <span className="visually-hidden">{c.key === 'tools' ? 'what can be done' : c.key}</span> : c.title),
    ...(c.numeric && { align: 'right' as const }),
    className: [c.numeric && 'num', c.wide && styles['wide']].filter(Boolean).join(' '),
    // A column that goes on narrow pages must not leave its width behind.
    ...(c.width !== undefined && (c.wide ? { onHeaderCell: () => ({ style: { width: c.width } }) } : { width: c.width })),
    ...(c.fixed && { fixed: c.fixed }),
    render: (_value: unknown, row: T, index: number) => (c.render ? c.render(row, index) : c.text(row)),
    ...(c.by && (sorted ? { sorter: true } : { sorter: compareBy(c.by) })),
    ...(c.by && sorted && { sortOrder: sorted.key === c.key ? (sorted.up ? ('ascend' as const) : ('descend' as const)) : null }),
    ...(c.filter &&
      values.length > 1 && {
        filters: values.map((v) => ({ text: v, value: v })),
        onFilter: (value: unknown, row: T) => c.filter!(row) === value,
      }),
  };
}

/** From here on the head stays in view; it is a table of its own then, which a short one need not be. */
const LONG = 15;

/** Rows that the server draws: more than a screen shows. The others come as soon as the page listens. */
const FIRST = 12;

/** The rows to draw now, and the paging that goes with them: it knows of those that have not come yet. */
function useDrawn<T>(
  rows: readonly T[],
  paging: NonNullable<TableProps<T>['pagination']>,
  windowed: boolean,
): { readonly drawn: readonly T[]; readonly pages: NonNullable<TableProps<T>['pagination']> } {
  const listens = useListens();
  if (listens || windowed || rows.length <= FIRST) return { drawn: rows, pages: paging };
  return { drawn: rows.slice(0, FIRST), pages: paging && { total: rows.length, ...paging } };
}

/** Which columns are shown, and the rows as they are shown: copied, or saved as a file. */
function TableTools<T extends object>({
  name,
  rows,
  columns,
  off,
  onOff,
}: {
  name: string;
  rows: readonly T[];
  columns: readonly DataColumn<T>[];
  off: ReadonlySet<string>;
  onOff: (off: ReadonlySet<string>) => void;
}) {
  const { message } = App.useApp();
  const texts = columns.filter((c) => !c.tool && !off.has(c.key));
  const copy = (): void => {
    navigator.clipboard.writeText(rowsAsTabs(texts, rows)).then(
      () => message.success(`${rows.length} rows copied, columns apart by tabs.`),
      () => message.info('This browser does not let the page write to the clipboard: save the table as a file instead.'),
    );
  };
  const show = (key: string, shown: boolean): void => {
    const next = new Set(off);
    if (shown) next.delete(key);
    else next.add(key);
    onOff(next);
  };
  const chooser = columns
    .filter((c) => !c.tool && c.title !== '')
    .map((c) => (
      <Checkbox
        key={c.key}
        checked={!off.has(c.key)}
        disabled={!off.has(c.key) && texts.length === 1}
        onChange={(e) => show(c.key, e.target.checked)}
      >
        {c.title}
      </Checkbox>
    ));
  const forms = CSV_FORMS.map((form) => (
    <Button key={form} size="small" type="text" onClick={() => saveFile(`${name}.csv`, rowsAsCsv(texts, rows, form), 'text/csv')}>
      {msg.csv} {form}
    </Button>
  ));
  return (
    <span>
      <Popover trigger="click" placement="bottomRight" content={<div className={styles['columns']}>{chooser}</div>}>
        <Button size="small" type="text" icon={<TableOutlined aria-hidden />} aria-label={`Columns of ${name}`}>
          {msg.columns}
        </Button>
      </Popover>
      <Tooltip title={msg.copiesTheRowsAsShownFor}>
        <Button size="small" type="text" icon={<CopyOutlined aria-hidden />} aria-label={`Copy ${name}`} onClick={copy}>
          {msg.copy}
        </Button>
      </Tooltip>
      <Popover trigger="click" placement="bottomRight" content={<div className={styles['columns']}>{forms}</div>}>
        <Button size="small" type="text" icon={<DownloadOutlined aria-hidden />} aria-label={`Save ${name} as a file`}>
          {msg.csv2}
        </Button>
      </Popover>
    </span>
  );
}

/** A table that grows or is compared: sorted, filtered, its columns chosen, copied as it is seen and saved as a file. */
export function DataTable<T extends object>(props: DataTableProps<T>) {
  const {
    name,
    rows,
    columns,
    rowKey,
    selected,
    onSelect,
    row,
    window_px,
    tools,
    empty,
    pagination = false,
    onChange,
    sorted,
    bare,
  } = props;
  const [off, setOff] = useState<ReadonlySet<string>>(() => new Set(columns.filter((c) => c.hidden).map((c) => c.key)));
  const [seen, setSeen] = useState<readonly T[] | null>(null);
  const shown = useMemo(() => columns.filter((c) => !off.has(c.key)), [columns, off]);
  const now = seen === null ? rows : seen.filter((r) => rows.includes(r));
  const { drawn, pages } = useDrawn(rows, pagination, window_px !== undefined);
  const root = useRef<HTMLDivElement>(null);
  // The library measures widths by a hidden copy of the head: what can be pressed in it must not take the focus.
  useEffect(() => {
    root.current?.querySelectorAll('.ant-table-measure-row').forEach((row) => row.setAttribute('inert', ''));
  });
  return (
    <div ref={root} className={styles['table']}>
      {!bare && (
        <div className={`${styles['tools']} no-print`}>
          <span>{tools}</span>
          <WhenListening>
            <TableTools name={name} rows={now} columns={columns} off={off} onOff={setOff} />
          </WhenListening>
        </div>
      )}
      <Table<T>
        size="small"
        aria-label={name}
        dataSource={drawn as T[]}
        columns={shown.map((c) => columnOf(c, rows, sorted))}
        rowKey={rowKey}
        pagination={pages}
        showSorterTooltip={false}
        {...(window_px === undefined
          ? { scroll: { x: 'max-content' }, sticky: rows.length > LONG }
          : { virtual: true, scroll: { y: window_px, x: 600 } })}
        {...(onSelect && {
          rowSelection: { selectedRowKeys: [...(selected ?? [])], onChange: (keys: Key[]) => onSelect(keys.map(String)) },
        })}
        {...(row && { onRow: (r: T, i?: number) => row(r, i ?? 0) })}
        {...(props.components && { components: props.components })}
        locale={{ emptyText: empty ?? 'Nothing here yet.' }}
        onChange={(page, filters, sorter, extra) => {
          setSeen(extra.currentDataSource);
          onChange?.(page, filters, sorter, extra);
        }}
      />
    </div>
  );
}
