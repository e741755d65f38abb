import { act } from 'react';
import { hydrateRoot } from 'react-dom/client';
import { renderToString } from 'react-dom/server';
import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { App } from 'antd';
import { compareBy, DataTable, type DataColumn } from './data-table';
import { rowsAsCsv, rowsAsTabs } from './rows-text';

interface Part {
  readonly id: string;
  readonly name: string;
  readonly bore: number | null;
  readonly kind: string;
}
const PARTS: readonly Part[] = [
  { id: 'a', name: 'Fenwick 66', bore: 66, kind: 'cable' },
  { id: 'b', name: 'Ridley, "big"', bore: 82, kind: 'electronic' },
  { id: 'c', name: 'Sorrel\t58', bore: null, kind: 'cable' },
];
const COLUMNS: readonly DataColumn<Part>[] = [
  { key: 'name', title: 'name', text: (p) => p.name, by: (p) => p.name },
  { key: 'bore', title: 'bore, mm', text: (p) => String(p.bore ?? '—'), by: (p) => p.bore, numeric: true },
  { key: 'kind', title: 'controls', text: (p) => p.kind, filter: (p) => p.kind },
  { key: 'do', title: '', text: () => '', tool: true, render: (p) => <button type="button">open {p.name}</button> },
];
const show = (more: Partial<Parameters<typeof DataTable<Part>>[0]> = {}) =>
  render(
    <App>
      <DataTable name="parts" rows={PARTS} columns={COLUMNS} rowKey={(p) => p.id} {...more} />
    </App>,
  );
const names = () =>
  screen
    .getAllByRole('row')
    .map((r) => within(r).queryAllByRole('cell')[0]?.textContent)
    .filter(Boolean);

it('is sorted by a head, what is not known last both ways', async () => {
  show();
  expect(names()).toEqual(['Fenwick 66', 'Ridley, "big"', 'Sorrel\t58']);
  const head = screen.getByRole('columnheader', { name: /bore/ });
  await userEvent.click(head);
  await userEvent.click(head);
  expect(names()).toEqual(['Ridley, "big"', 'Fenwick 66', 'Sorrel\t58']);
  expect(PARTS.toSorted((a, b) => compareBy<Part>((p) => p.bore)(a, b, 'ascend')).at(-1)!.id).toBe('c');
});

it('a column can be put away, but never the last one; tools stay', async () => {
  show();
  await userEvent.click(screen.getByRole('button', { name: 'Columns of parts' }));
  await userEvent.click(await screen.findByRole('checkbox', { name: 'bore, mm' }));
  expect(screen.queryByRole('columnheader', { name: /bore/ })).not.toBeInTheDocument();
  await userEvent.click(screen.getByRole('checkbox', { name: 'controls' }));
  expect(screen.getByRole('checkbox', { name: 'name' })).toBeDisabled();
  expect(screen.getByRole('button', { name: 'open Fenwick 66' })).toBeInTheDocument();
});

it('is copied as it is shown: sorted, chosen columns, cells apart by tabs', async () => {
  const user = userEvent.setup();
  show();
  await user.click(screen.getByRole('columnheader', { name: /bore/ }));
  await user.click(screen.getByRole('button', { name: 'Copy parts' }));
  expect(await navigator.clipboard.readText()).toBe(
    'name\tbore, mm\tcontrols\nFenwick 66\t66\tcable\nRidley, "big"\t82\telectronic\nSorrel 58\t—\tcable',
  );
});

it('as text a tab or a quote in a cell breaks nothing', () => {
  const columns = COLUMNS.slice(0, 2);
  expect(rowsAsTabs(columns, PARTS.slice(2))).toBe('name\tbore, mm\nSorrel 58\t—');
  expect(rowsAsCsv(columns, PARTS.slice(1, 2))).toContain('"Ridley, ""big""",82');
});

it('rows are chosen by their boxes', async () => {
  const chosen: (readonly string[])[] = [];
  show({ onSelect: (keys) => chosen.push(keys), selected: [] });
  const row = screen.getByRole('row', { name: /Fenwick/ });
  await userEvent.click(within(row).getByRole('checkbox'));
  expect(chosen).toEqual([['a']]);
});

it('an empty one says so', () => {
  show({ rows: [], empty: 'No parts yet.' });
  expect(screen.getByText('No parts yet.')).toBeInTheDocument();
});

it('the server draws what a screen shows, its pages count all; once the page listens every row is there', async () => {
  const many = Array.from({ length: 60 }, (_, i) => ({ id: `p${i}`, name: `part ${i}`, bore: i, kind: 'cable' }));
  const table = (
    <App>
      <DataTable name="parts" rows={many} columns={COLUMNS} rowKey={(p) => p.id} pagination={{ pageSize: 20 }} />
    </App>
  );
  const place = document.body.appendChild(document.createElement('div'));
  place.innerHTML = renderToString(table);
  const sent = () => within(place).queryAllByText(/^part \d+$/).length;
  expect(sent()).toBe(12);
  expect(within(place).getByTitle('3')).toBeInTheDocument();
  await act(async () => hydrateRoot(place, table));
  expect(sent()).toBe(20);
  expect(within(place).getByTitle('3')).toBeInTheDocument();
});
