import { columnFacts, guessChannels } from '@/core/read/guess';
import { columnValues, type ReadResult } from '@/core/read/result';
import { ShopFileReader } from './file-reader';

const T = Array.from({ length: 60 }, (_, i) => Number((i / 10).toFixed(1)));
const RPM = T.map((t) => Math.round(2000 + 600 * t));
const KW = T.map((t) => Number((40 + 12 * t).toFixed(2)));
const lines = (line: (i: number) => string): string => T.map((_, i) => line(i)).join('\n') + '\n';

function read(text: string): Extract<ReadResult, { refused: null }> {
  const reader = new ShopFileReader();
  const bytes = new TextEncoder().encode(text);
  for (let at = 0; at < bytes.length; at += 700) reader.push(bytes.slice(at, at + 700));
  const result = reader.finish();
  if (result.refused !== null) throw new Error(JSON.stringify(result));
  return result;
}

function channels(result: Extract<ReadResult, { refused: null }>) {
  const guesses = guessChannels(result.columns.map((c) => columnFacts(c)));
  return Object.fromEntries(
    guesses.filter((g) => g.quantity !== 'other').map((g) => [g.quantity, [g.unit, [...columnValues(result.columns[g.column]!)]]]),
  );
}

describe('lines of named figures', () => {
  it.each([
    ['with equals signs and commas', lines((i) => `time=${T[i]}, rpm=${RPM[i]}, power=${KW[i]}kW`)],
    ['as a serial monitor shows them', lines((i) => `Time:${T[i]}\tRPM:${RPM[i]}\tPower:${KW[i]} kW`)],
    ['with the moment before them', lines((i) => `[${T[i]}] RPM: ${RPM[i]} Power: ${KW[i]} kW`)],
    ['with a unit behind each', lines((i) => `${T[i]} s: RPM = ${RPM[i]} rpm; Power = ${KW[i]} kW`)],
  ])('%s are a table', (_, text) => {
    const result = read(text);
    expect(channels(result)).toEqual({ time: ['s', T], rpm: ['rpm', RPM], power: ['kW', KW] });
    expect(result.report.container).toBe('a list of named figures, a moment a line');
  });

  it('a name that is not on every line has nothing there, and lines of words are told', () => {
    const text = `logger 3 begins\n${lines((i) => `t=${T[i]} rpm=${RPM[i]}${i % 2 ? ` afr=${12 + i / 100}` : ''}`)}low battery\n`;
    const result = read(text);
    expect(channels(result)).toMatchObject({ time: ['s', T], rpm: ['rpm', RPM] });
    expect((channels(result)['afr'] as [string, number[]])[1].slice(0, 3)).toEqual([NaN, 12.01, NaN]);
    expect(result.report.unread).toEqual(['2 lines of words, the first “logger 3 begins”']);
  });

  it('a figure in another unit than before is none of its column, and is told', () => {
    const result = read(lines((i) => `t=${T[i]} rpm=${RPM[i]} power=${i === 30 ? `${KW[i]! * 1000} W` : `${KW[i]} kW`}`));
    expect((channels(result)['power'] as [string, number[]])[1].slice(29, 32)).toEqual([KW[29], NaN, KW[31]]);
    expect(result.report).toMatchObject({ textCells: 1, firstTextCell: { column: 'power', text: `${KW[30]! * 1000} W` } });
  });

  it('a table with such lines above it is a table', () => {
    const above = 'Barometer: 1003 hPa\nAir temperature: 20 °C\nGear: 4\nHumidity: 45 %\n';
    const result = read(`${above}Time (s),RPM,Power (kW)\n${lines((i) => `${T[i]},${RPM[i]},${KW[i]}`)}`);
    expect(channels(result)).toEqual({ time: ['s', T], rpm: ['rpm', RPM], power: ['kW', KW] });
    expect(result.report.container).toBeUndefined();
  });

  it('clock times in cells are no names', () => {
    const result = read(`Clock;RPM;Power (kW)\n${lines((i) => `14:2${Math.floor(T[i]!)}:0${i % 10};${RPM[i]};${KW[i]}`)}`);
    expect(result.report.container).toBeUndefined();
    expect(channels(result)).toMatchObject({ rpm: ['rpm', RPM] });
  });
});
