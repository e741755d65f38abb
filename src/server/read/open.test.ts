import { strToU8, gzipSync, zipSync } from 'fflate';
import { utils, write } from '@e965/xlsx';
import { columnFacts, guessChannels } from '@/core/read/guess';
import { columnValues, type ReadResult } from '@/core/read/result';
import { ShopFileReader } from './file-reader';

const ROWS = Array.from({ length: 40 }, (_, i) => ({ t: i / 10, rpm: 2000 + 100 * i, kW: 40 + 2.5 * i }));
const CSV = `Time (s),RPM,Power (kW)\n${ROWS.map((r) => `${r.t},${r.rpm},${r.kW}`).join('\n')}\n`;
const GRID: (string | number)[][] = [['Time (s)', 'RPM', 'Power (kW)'], ...ROWS.map((r) => [r.t, r.rpm, r.kW])];

function read(bytes: Uint8Array | string, choice: string | null = null): ReadResult {
  const reader = new ShopFileReader(choice);
  const all = typeof bytes === 'string' ? strToU8(bytes) : bytes;
  for (let at = 0; at < all.length; at += 5000) reader.push(all.slice(at, at + 5000));
  return reader.finish();
}

function taken(result: ReadResult): {
  quantities: string[];
  rpm: number[];
  container: string | undefined;
  unread: readonly string[] | undefined;
} {
  if (result.refused !== null) throw new Error(JSON.stringify(result));
  const quantities = guessChannels(result.columns.map((c) => columnFacts(c))).map((g) => g.quantity);
  const rpm = [...columnValues(result.columns[quantities.indexOf('rpm')]!)];
  return { quantities, rpm, container: result.report.container, unread: result.report.unread };
}
const RPM = ROWS.map((r) => r.rpm);

function workbook(sheets: Record<string, (string | number)[][]>, bookType: 'xlsx' | 'ods' | 'biff8' = 'xlsx'): Uint8Array {
  const book = utils.book_new();
  for (const [name, grid] of Object.entries(sheets)) utils.book_append_sheet(book, utils.aoa_to_sheet(grid), name);
  return new Uint8Array(write(book, { type: 'array', bookType, compression: true }) as ArrayBuffer);
}

describe('workbooks', () => {
  it.each(['xlsx', 'ods', 'biff8'] as const)('one table in %s is taken, a title page beside it is named', (type) => {
    const got = taken(read(workbook({ Notes: [['Made-up car'], ['nothing here']], Pull: GRID }, type)));
    expect(got.rpm).toEqual(RPM);
    expect(got.unread).toEqual(['Notes']);
  });

  it('of two sheets with tables one has to be said, and its name is enough', () => {
    const book = workbook({ 'Run 1': GRID, 'Run 2': GRID.map((r, i) => (i === 0 ? r : [r[0]!, Number(r[1]) + 5, r[2]!])) });
    expect(read(book)).toMatchObject({ refused: 'which_table', tables: [{ name: 'Run 1', rows: 41, columns: 3 }, { name: 'Run 2' }] });
    expect(taken(read(book, 'Run 2')).rpm[0]).toBe(2005);
  });

  it('a table that begins further right and down, with lines above it, is found', () => {
    const moved = [['', '', 'Correction: SAE J1349'], [], ...GRID.map((r) => ['', '', ...r])];
    const got = read(workbook({ Pull: moved }));
    expect(taken(got).rpm).toEqual(RPM);
    expect(got.refused === null && got.report.layout.preamble).toEqual(['Correction: SAE J1349']);
  });

  it('a damaged one is refused with the way out', () => {
    expect(read(workbook({ Pull: GRID }).slice(0, 3000))).toMatchObject({ refused: 'container' });
  });
});

describe('archives', () => {
  it('a zip of one file and a gzip are opened, whatever the name', () => {
    expect(taken(read(zipSync({ 'run 4.csv': strToU8(CSV), '__MACOSX/._run 4.csv': strToU8('x') }))).rpm).toEqual(RPM);
    expect(taken(read(gzipSync(strToU8(CSV)))).rpm).toEqual(RPM);
  });

  it('of several files one has to be said; a sheet of a workbook inside too', () => {
    const inner = workbook({ A: GRID, B: GRID });
    const zip = zipSync({ 'one.csv': strToU8(CSV), 'book.xlsx': inner });
    expect(read(zip)).toMatchObject({ refused: 'which_table', tables: [{ name: 'one.csv' }, { name: 'book.xlsx' }] });
    const nested = read(zip, 'book.xlsx');
    expect(nested).toMatchObject({ refused: 'which_table', tables: [{ name: 'book.xlsx › A' }, { name: 'book.xlsx › B' }] });
    expect(taken(read(zip, 'book.xlsx › B')).rpm).toEqual(RPM);
  });

  it('one that unfolds without end is refused before it has', () => {
    const bomb = zipSync({ 'a.csv': new Uint8Array(30_000_000) });
    expect(bomb.length).toBeLessThan(200_000);
    expect(read(bomb)).toEqual({ refused: 'container', container: 'a zip archive', why: 'too_large' });
    expect(read(gzipSync(new Uint8Array(30_000_000)))).toMatchObject({ refused: 'container', why: 'too_large' });
  });
});

describe('documents', () => {
  it.each([
    ['records', JSON.stringify(ROWS.map((r) => ({ time_s: r.t, rpm: r.rpm, power_kW: r.kW })))],
    [
      'columns',
      JSON.stringify({ meta: { car: 'x' }, time_s: ROWS.map((r) => r.t), rpm: ROWS.map((r) => r.rpm), power_kW: ROWS.map((r) => r.kW) }),
    ],
    ['names and rows', JSON.stringify({ columns: ['Time (s)', 'RPM', 'Power (kW)'], data: ROWS.map((r) => [r.t, r.rpm, r.kW]) })],
    [
      'channels',
      JSON.stringify({
        channels: [
          { name: 'Time', unit: 's', values: ROWS.map((r) => r.t) },
          { name: 'RPM', unit: 'rpm', values: ROWS.map((r) => r.rpm) },
          { name: 'Power', unit: 'kW', values: ROWS.map((r) => r.kW) },
        ],
      }),
    ],
    [
      'channels by their names',
      JSON.stringify({
        signals: {
          time: { unit: 's', values: ROWS.map((r) => r.t) },
          rpm: { unit: '1/min', values: ROWS.map((r) => r.rpm) },
          power: { unit: 'kW', values: ROWS.map((r) => r.kW) },
        },
      }),
    ],
    ['a record a line', ROWS.map((r) => JSON.stringify({ time_s: r.t, rpm: r.rpm, power: { value: r.kW, unit: 'kW' } })).join('\n')],
  ])('JSON as %s', (_say, text) => {
    expect(taken(read(text)).rpm).toEqual(RPM);
    expect(taken(read(text)).quantities).toEqual(expect.arrayContaining(['time', 'rpm', 'power']));
  });

  it('XML of repeated records, figures in children or attributes; its entities are not unfolded', () => {
    const children = ROWS.map(
      (r) => `<sample><time unit="s">${r.t}</time><rpm>${r.rpm}</rpm><power unit="kW">${r.kW}</power></sample>`,
    ).join('');
    expect(taken(read(`<?xml version="1.0"?><run>${children}</run>`)).rpm).toEqual(RPM);
    const attributes = ROWS.map((r) => `<s time_s="${r.t}" rpm="${r.rpm}" power_kW="${r.kW}"/>`).join('\n');
    expect(taken(read(`<log>${attributes}</log>`)).rpm).toEqual(RPM);
    const laughs = `<?xml version="1.0"?><!DOCTYPE l [<!ENTITY a "${'9'.repeat(1000)}">]><l>${'<s><v>&a;</v><rpm>1</rpm></s>'.repeat(5)}</l>`;
    expect(JSON.stringify(read(laughs)).length).toBeLessThan(5000);
  });

  it('an HTML and a Markdown table', () => {
    const rows = ROWS.map((r) => `<tr><td>${r.t}</td><td>${r.rpm}</td><td>${r.kW}</td></tr>`).join('');
    expect(taken(read(`<table><tr><th>Time (s)</th><th>RPM</th><th>Power (kW)</th></tr>${rows}</table>`)).rpm).toEqual(RPM);
    const lines = ROWS.map((r) => `| ${r.t} | ${r.rpm} | ${r.kW} |`).join('\n');
    expect(taken(read(`Some words.\n\n| Time (s) | RPM | Power (kW) |\n|---|---:|---|\n${lines}\n`)).rpm).toEqual(RPM);
  });

  it('a list of readings, one a line, is stood up; what could not be placed is told', () => {
    const lines = ROWS.flatMap((r) => [`${r.t};rpm;${r.rpm};1/min`, `${r.t};power;${r.kW};kW`]);
    const got = taken(read(`time;signal;value;unit\n${lines.join('\n')}\n;rpm;;\n`));
    expect(got.rpm).toEqual(RPM);
    expect(got.unread?.[0]).toMatch(/^1 readings? without/);
  });
});

describe('tracks', () => {
  const sentence = (body: string): string => {
    let sum = 0;
    for (const c of body) sum ^= c.charCodeAt(0);
    return `$${body}*${sum.toString(16).toUpperCase().padStart(2, '0')}`;
  };
  it('sentences of a GPS receiver give time, speed from knots and height, over midnight; a wrong sum is left out and told', () => {
    const lines = Array.from({ length: 10 }, (_, i) => {
      const second = 86_395 + i;
      const clock = `${String(Math.floor((second / 3600) % 24)).padStart(2, '0')}${String(Math.floor(second / 60) % 60).padStart(2, '0')}${String(second % 60).padStart(2, '0')}.00`;
      return [
        sentence(`GPGGA,${clock},5000.0000,N,01000.0000,E,1,08,1.0,${100 + i},M,45,M,,`),
        sentence(`GPRMC,${clock},A,5000.${String(i * 10).padStart(4, '0')},N,01000.0000,E,${20 + i},0,040326,,`),
      ].join('\n');
    });
    const got = read(`${lines.join('\n')}\n$GPRMC,000010.00,A,5000.0,N,01000.0,E,99,0,040326,,*00\n`);
    if (got.refused !== null) throw new Error(got.refused);
    const guesses = guessChannels(got.columns.map((c) => columnFacts(c)));
    const column = (q: string): number[] => [...columnValues(got.columns[guesses.findIndex((g) => g.quantity === q)]!)];
    expect(column('time')).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 9]);
    expect(column('speed')[4]).toBeCloseTo((24 * 1852) / 3600, 6);
    expect(column('altitude')[9]).toBe(109);
    expect(got.report.unread).toEqual(['1 sentences whose check sum is wrong']);
  });
});
