import { readNumber } from '../units/quantity';
import type { ReadColumn } from './result';
import { columnValues } from './result';
import { isCounter, isTimeName } from './names';

/** A clock apart from the first by more than this, s or whatever the clocks count in, is one of its own. */
const SAME_CLOCK = 1e-9;

/** Values over their own clock, brought to other moments between its samples; NaN outside them. */
function atMoments(clock: Float64Array, values: Float64Array, moments: Float64Array): Float64Array<ArrayBuffer> {
  const known: number[] = [];
  for (let i = 0; i < clock.length; i += 1)
    if (Number.isFinite(clock[i]) && Number.isFinite(values[i]) && (known.length === 0 || clock[i]! > clock[known.at(-1)!]!)) known.push(i);
  const out = new Float64Array(moments.length).fill(NaN);
  let k = 0;
  for (let i = 0; i < moments.length; i += 1) {
    const t = moments[i]!;
    if (known.length === 0 || !(t >= clock[known[0]!]! && t <= clock[known.at(-1)!]!)) continue;
    // Moments may fall back where a log begins anew.
    if (k > 0 && clock[known[k]!]! > t) k = 0;
    while (k + 2 < known.length && clock[known[k + 1]!]! < t) k += 1;
    const [a, b] = [known[k]!, known[Math.min(k + 1, known.length - 1)]!];
    const share = clock[b]! === clock[a]! ? 0 : (t - clock[a]!) / (clock[b]! - clock[a]!);
    out[i] = values[a]! + share * (values[b]! - values[a]!);
  }
  return out;
}

const columnOf = (values: Float64Array<ArrayBuffer>, like: ReadColumn): Pick<ReadColumn, 'blocks' | 'count'> => {
  let at = 0;
  const blocks = like.blocks.map((b) => values.slice(at, (at += b.length)));
  return { blocks, count: values.reduce((n, v) => n + (v === v ? 1 : 0), 0) };
};

/** A logger that is begun anew sets its clock back, and no more often than at one row of so many. */
const MOST_BACK = 0.1;

/** Longest file whose second clocks are brought to the first. */
const MOST_ROWS = 2_000_000;

const rateOf = (preamble: readonly string[]): number | null => {
  for (const line of preamble) {
    const rate = /(?:sampl\w*|log\w*|data|abtast\w*)?[\s_-]*(?:rate|frequency|frequenz|freq)\b[^\d]*([\d.,]+\s*k?hz)/i.exec(line)?.[1];
    const step = /(?:interval|period|sample time|time step|schrittweite|\bdt\b)[^\d]*([\d.,]+\s*m?s)\b/i.exec(line)?.[1];
    const number = readNumber(rate ?? step ?? '');
    if (!number || number.value <= 0) continue;
    if (rate) return number.value * (/khz/i.test(number.rest) ? 1000 : 1);
    return 1 / (number.value * (/^ms/i.test(number.rest) ? 1e-3 : 1));
  }
  return null;
};

/**
 * What can be made of columns that do not stand on the table's own clock: channels with a second clock beside them brought
 * to the first, and a clock from a running number where the lines above the table give the rate. Each says what it is.
 */
export function derivedColumns(columns: readonly ReadColumn[], preamble: readonly string[]): ReadColumn[] {
  const clocks = columns.flatMap((c, i) => (isTimeName(c.name) && c.count > 1 ? [i] : []));
  const [first, ...others] = clocks;
  if (first === undefined) return withCounted(columns, preamble);
  const rows = columns[first]!.blocks.reduce((n, b) => n + b.length, 0);
  const out: ReadColumn[] = [...columns];
  if (others.length === 0 || rows > MOST_ROWS) return out;
  const moments = columnValues(columns[first]!);
  for (const [k, own] of others.entries()) {
    if (columns[own]!.unit !== columns[first]!.unit) continue;
    const clock = columnValues(columns[own]!);
    if (!runs(clock) || !differs(moments, clock)) continue;
    const end = others[k + 1] ?? columns.length;
    for (let c = own + 1; c < end; c += 1) {
      const column = columns[c]!;
      if (column.count < 2) continue;
      out[c] = { ...column, ownClock: true };
      const values = atMoments(clock, columnValues(column), moments);
      const made = `${column.name}, which has a clock of its own, brought to the first clock`;
      out.push({ name: column.name, unit: column.unit, ...columnOf(values, columns[first]!), made });
    }
  }
  return out;
}

/** Whether figures go on like a clock: hardly any is below the one before it. */
function runs(clock: Float64Array): boolean {
  let [steps, back] = [0, 0];
  let before = NaN;
  for (const t of clock) {
    if (t !== t) continue;
    if (before === before) steps += 1;
    if (t < before) back += 1;
    before = t;
  }
  return steps > 0 && back <= MOST_BACK * steps;
}

function differs(a: Float64Array, b: Float64Array): boolean {
  for (let i = 0; i < a.length; i += 1) if (Math.abs(a[i]! - b[i]!) > SAME_CLOCK * Math.max(1, Math.abs(a[i]!))) return true;
  return false;
}

function withCounted(columns: readonly ReadColumn[], preamble: readonly string[]): ReadColumn[] {
  const at = columns.findIndex((c) => isCounter(c.name) && c.count > 1);
  const rate = at < 0 ? null : rateOf(preamble);
  if (rate === null) return [...columns];
  const values = columnValues(columns[at]!).map((n) => n / rate);
  const made = `${columns[at]!.name} at ${rate} samples a second, as the lines above the table say`;
  return [...columns, { name: 'Time', unit: 's', ...columnOf(values, columns[at]!), made }];
}
