import { read, SSF, utils, type CellObject, type WorkSheet } from '@e965/xlsx';
import { chosenTable, fault, MOST_CELLS, type InnerTable, type OpenResult } from './rows';

const DAY_s = 86_400;

/** A day-and-time figure of a spreadsheet as text the table reader knows: a time of day, or a dated stamp. */
function stamp(serial: number): string {
  const two = (n: number): string => String(n).padStart(2, '0');
  const ms = Math.round((serial % 1) * DAY_s * 1000);
  const [hours, minutes, seconds] = [Math.floor(ms / 3_600_000), Math.floor(ms / 60_000) % 60, (ms % 60_000) / 1000];
  const clock = `${two(hours)}:${two(minutes)}:${seconds < 10 ? '0' : ''}${seconds}`;
  if (serial < 1) return clock;
  const day = new Date(Math.round((Math.floor(serial) - 25_569) * DAY_s * 1000));
  return `${day.getUTCFullYear()}-${two(day.getUTCMonth() + 1)}-${two(day.getUTCDate())} ${clock}`;
}

function textOf(cell: CellObject | undefined): string {
  if (!cell || cell.v === undefined || cell.v === null) return '';
  if (cell.t === 'e') return '';
  if (cell.t !== 'n' || typeof cell.v !== 'number') return String(cell.v);
  const format = String(cell.z ?? '');
  if (format !== '' && SSF.is_date(format)) return stamp(cell.v);
  // A share shown in percent is meant in percent.
  return format.includes('%') ? `${Number((cell.v * 100).toPrecision(15))} %` : String(cell.v);
}

function rowsOf(sheet: WorkSheet): string[][] {
  const dense = (sheet as { '!data'?: (CellObject | undefined)[][] })['!data'] ?? [];
  const rows = Array.from(dense, (row) => {
    const cells = Array.from(row ?? [], textOf);
    while (cells.length > 0 && cells.at(-1) === '') cells.pop();
    return cells;
  });
  // An edge of empty columns is where the sheet's maker began, not a part of the table.
  const edge = rows.reduce((m, r) => Math.min(m, r.length === 0 ? m : r.findIndex((c) => c !== '')), Infinity);
  return Number.isFinite(edge) && edge > 0 ? rows.map((r) => r.slice(edge)) : rows;
}

/** A workbook (.xlsx, .xls, .ods): the one sheet with a table, or the one that was chosen. */
export function openWorkbook(bytes: Uint8Array, choice: string | null): OpenResult {
  const container = 'a spreadsheet workbook';
  try {
    const book = read(bytes, { dense: true, cellNF: true, cellHTML: false, cellText: false, cellFormula: false });
    const tables: InnerTable[] = [];
    let cells = 0;
    for (const name of book.SheetNames) {
      const sheet = book.Sheets[name];
      if (!sheet?.['!ref']) continue;
      const { e, s } = utils.decode_range(sheet['!ref']);
      cells += Math.min(e.r - s.r + 1, 2_000_000) * Math.min(e.c - s.c + 1, 20);
      if (cells > MOST_CELLS) return fault(container, 'too_large');
      tables.push({ name, rows: rowsOf(sheet) });
    }
    return chosenTable(container, tables, choice);
  } catch (error) {
    return fault(container, /password|encrypt/i.test(String(error)) ? 'encrypted' : 'damaged');
  }
}
