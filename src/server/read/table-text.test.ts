import { strToU8 } from 'fflate';
import { utils, write } from '@e965/xlsx';
import { passesFromTable, tableOf } from '@/core/strip/slip-table';
import { readTableText } from './table-text';

it('a day of slips in a workbook comes as the table it is, words and all', () => {
  const book = utils.book_new();
  const grid = [
    ['Time', 'Lane', 'R/T', '60 ft', '1/8', 'MPH', '1/4', 'MPH', 'Note'],
    ['10:12', 'L', -0.012, 1.985, 8.611, 82.35, 13.422, 103.31, 'cold tyres'],
  ];
  utils.book_append_sheet(book, utils.aoa_to_sheet(grid), 'Saturday');
  const got = readTableText(new Uint8Array(write(book, { type: 'array', bookType: 'xlsx' }) as ArrayBuffer), null);
  // One row alone is not known for a table among sheets: it is refused with what is missing.
  expect(got).toMatchObject({ refused: 'container', why: 'no_table' });
  for (let i = 0; i < 3; i += 1) grid.push([`11:0${i}`, 'R', 0.1, 2 + i / 100, 8.7, 81, 13.5, 102, 'again']);
  const more = utils.book_new();
  utils.book_append_sheet(more, utils.aoa_to_sheet(grid), 'Saturday');
  const day = readTableText(new Uint8Array(write(more, { type: 'array', bookType: 'xlsx' }) as ArrayBuffer), null);
  if (day.refused !== null) throw new Error(JSON.stringify(day));
  const { header, rows } = tableOf(day.text);
  const { found } = passesFromTable(header, rows, () => null);
  expect(found).toHaveLength(4);
  expect(found[0]).toMatchObject({ at: '10:12', lane: 'left', note: 'cold tyres', slip: { reaction_s: -0.012, t402_s: 13.422 } });
});

it('text in another encoding is decoded, and what is no table is refused', () => {
  const russian = Uint8Array.from([
    0xee, 0xe1, 0xee, 0xf0, 0xee, 0xf2, 0xfb, 0x3b, 0xec, 0xee, 0xf9, 0xed, 0xee, 0xf1, 0xf2, 0xfc, 0x0a, 0x31, 0x3b, 0x32, 0x0a,
  ]);
  expect(readTableText(russian, null)).toMatchObject({ refused: null, text: 'обороты;мощность\n1;2\n' });
  expect(readTableText(new Uint8Array(0), null)).toEqual({ refused: 'empty_file' });
  expect(readTableText(strToU8('%PDF-1.7 x'), null)).toMatchObject({ refused: 'not_text' });
});
