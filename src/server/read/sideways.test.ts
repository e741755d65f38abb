import { utils, write } from '@e965/xlsx';
import { columnFacts, guessChannels } from '@/core/read/guess';
import { columnValues, type ReadResult } from '@/core/read/result';
import { ShopFileReader } from './file-reader';

const T = Array.from({ length: 150 }, (_, i) => i / 20);
const RPM = T.map((t) => Math.round(2000 + 600 * t));
const KW = T.map((t) => Number((40 + 12 * t).toFixed(2)));

function read(bytes: Uint8Array | string, piece = 5000): Extract<ReadResult, { refused: null }> {
  const reader = new ShopFileReader();
  const all = typeof bytes === 'string' ? new TextEncoder().encode(bytes) : bytes;
  for (let at = 0; at < all.length; at += piece) reader.push(all.slice(at, at + piece));
  const result = reader.finish();
  if (result.refused !== null) throw new Error(JSON.stringify(result));
  return result;
}

function channels(result: Extract<ReadResult, { refused: null }>) {
  const guesses = guessChannels(result.columns.map((c) => columnFacts(c)));
  const of = (quantity: string) => {
    const found = guesses.find((g) => g.quantity === quantity);
    return found ? { unit: found.unit, values: [...columnValues(result.columns[found.column]!)] } : null;
  };
  return { time: of('time'), rpm: of('rpm'), power: of('power'), columns: guesses.length };
}

const lines = (rows: readonly (readonly (string | number)[])[], delimiter = ',') => rows.map((r) => r.join(delimiter)).join('\n') + '\n';

describe('a table that lies on its side', () => {
  it('is turned: its channels stand in rows', () => {
    const result = read(
      lines([
        ['Time (s)', ...T],
        ['RPM', ...RPM],
        ['Power (kW)', ...KW],
      ]),
    );
    expect(channels(result)).toEqual({
      time: { unit: 's', values: T },
      rpm: { unit: 'rpm', values: RPM },
      power: { unit: 'kW', values: KW },
      columns: 3,
    });
    expect(result.report.container).toBe('a table that lies on its side (3 channels in rows, of 150 figures)');
  });

  it('with its units in the second cell, decimal commas, and lines above and below it', () => {
    const comma = (v: number): string => String(v).replace('.', ',');
    const text = `Osprey 2.0, third pull\nLuftdruck 1008 hPa\n\n${lines(
      [
        ['Zeit', 's', ...T.map(comma)],
        ['Drehzahl', '1/min', ...RPM],
        ['Leistung', 'kW', ...KW.map(comma)],
      ],
      ';',
    )}\nend of the record\n`;
    const result = read(text);
    expect(channels(result)).toMatchObject({ time: { values: T }, rpm: { values: RPM }, power: { unit: 'kW', values: KW } });
    expect(result.report.layout.preamble).toContain('Luftdruck 1008 hPa');
    expect(result.report.unread).toEqual(['“end of the record”, below the table']);
  });

  it('longer than what is looked at first, in pieces of any size', () => {
    const long = Array.from({ length: 20_000 }, (_, i) => i / 100);
    const rpm = long.map((t) => Math.round(2000 + 10 * t));
    expect(
      channels(
        read(
          lines(
            [
              ['Time (s)', ...long],
              ['Engine RPM', ...rpm],
            ],
            '\t',
          ),
          1 << 15,
        ),
      ),
    ).toMatchObject({
      time: { values: long },
      rpm: { values: rpm },
    });
  });

  it('of two channels only, without a line end behind the last', () => {
    expect(
      channels(
        read(
          lines([
            ['Time (s)', ...T],
            ['RPM', ...RPM],
          ]).trimEnd(),
        ),
      ).rpm?.values,
    ).toEqual(RPM);
  });

  it('in a workbook too', () => {
    const book = utils.book_new();
    utils.book_append_sheet(
      book,
      utils.aoa_to_sheet([
        ['Time (s)', ...T],
        ['RPM', ...RPM],
        ['Power (kW)', ...KW],
      ]),
      'Pull',
    );
    const result = read(new Uint8Array(write(book, { type: 'array', bookType: 'xlsx' }) as ArrayBuffer));
    expect(channels(result)).toMatchObject({ rpm: { values: RPM }, power: { values: KW } });
    expect(result.report.container).toBe('a table that lies on its side (3 channels in rows, of 150 figures) in a spreadsheet workbook');
  });

  it('of many lines below it the first are told and the others counted', () => {
    const below = Array.from({ length: 9 }, (_, i) => `remark ${String.fromCharCode(97 + i)}`).join('\n');
    const { unread } = read(
      `${lines([
        ['Time (s)', ...T],
        ['RPM', ...RPM],
        ['Power (kW)', ...KW],
      ])}${below}\n`,
    ).report;
    expect(unread).toHaveLength(6);
    expect([unread![0], unread![5]]).toEqual(['“remark a”, below the table', '4 more lines below it']);
  });

  it('a row that lacks figures at its end has nothing there', () => {
    const got = channels(
      read(
        lines([
          ['Time (s)', ...T],
          ['RPM', ...RPM.slice(0, 100)],
          ['Power (kW)', ...KW],
        ]),
      ),
    );
    expect(got.rpm?.values.slice(98)).toEqual([RPM[98], RPM[99], ...Array<number>(50).fill(NaN)]);
  });

  it('a table that stands upright is left as it is, also where a row of sums begins with a name', () => {
    const upright = lines([['Time (s)', 'RPM', 'Power (kW)', 'A', 'B', 'C'], ...T.map((t, i) => [t, RPM[i]!, KW[i]!, 1, 2, 3])]);
    expect(read(upright).report.container).toBeUndefined();
    const summed = `Power,1,2,3,4,5\nTorque,1,2,3,4,5\n${upright}`;
    expect(channels(read(summed)).rpm?.values).toEqual(RPM);
  });
});
