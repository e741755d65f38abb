import { splitRows } from '@/core/read/layout';
import { tabbed, type Opened } from './rows';

const SIGNAL = /^(signal|channel|parameter|param|variable|sensor|pid|name|measure|tag|kanal|signalname|messgr(ö|oe)(ß|ss)e)$/i;
const VALUE = /^(value|val|reading|wert|messwert|data)$/i;
const UNIT = /^(units?|einheit)$/i;
const TIME = /^(time|t|timestamp|seconds|zeit|elapsed|time ?stamp)\b/i;
const DELIMITERS = ['\t', ';', ',', '|'] as const;
const MOST_SIGNALS = 600;

interface LongHead {
  readonly delimiter: (typeof DELIMITERS)[number];
  readonly line: number;
  readonly time: number;
  readonly signal: number;
  readonly value: number;
  readonly unit: number;
}

/** A table of one reading a line (time, signal, value), by its header; null where it is not one. */
export function longHead(head: string): LongHead | null {
  const lines = head.split('\n', 60);
  for (const [line, text] of lines.entries())
    for (const delimiter of DELIMITERS) {
      const cells = (splitRows(text, delimiter)[0] ?? []).map((c) => c.trim());
      const at = (pattern: RegExp): number => cells.findIndex((c) => pattern.test(c));
      const found = { delimiter, line, time: at(TIME), signal: at(SIGNAL), value: at(VALUE), unit: at(UNIT) };
      if (found.time >= 0 && found.signal >= 0 && found.value >= 0 && cells.length >= 3) return found;
    }
  return null;
}

/**
 * Readings, one a line, as a table with a row a moment. Signals that were read at the same moments share rows; one that was
 * read at moments of its own leaves cells empty.
 */
export function openLong(text: string, head: LongHead): Opened | null {
  const rows = splitRows(text, head.delimiter);
  const names = new Map<string, { column: number; unit: string }>();
  const moments = new Map<string, string[]>();
  let left = 0;
  for (const row of rows.slice(head.line + 1)) {
    const [moment, signal, value] = [row[head.time]?.trim(), row[head.signal]?.trim(), row[head.value]?.trim()];
    if (!moment || !signal || value === undefined) {
      if (row.some((c) => c.trim() !== '')) left += 1;
      continue;
    }
    let known = names.get(signal);
    if (!known) {
      if (names.size >= MOST_SIGNALS) return null;
      names.set(signal, (known = { column: names.size + 1, unit: head.unit < 0 ? '' : (row[head.unit]?.trim() ?? '') }));
    }
    const at = moments.get(moment) ?? [moment];
    if (at[known.column] !== undefined) left += 1;
    else at[known.column] = value;
    moments.set(moment, at);
  }
  if (names.size === 0 || moments.size < 2) return null;
  const width = names.size + 1;
  const first = splitRows(text.split('\n', head.line + 1)[head.line] ?? '', head.delimiter)[0]?.[head.time] ?? 'Time';
  const header = [first, ...[...names].map(([n, { unit }]) => (unit ? `${n} (${unit})` : n))];
  const body = [...moments.values()].map((r) => Array.from({ length: width }, (_, i) => r[i] ?? ''));
  return {
    refused: null,
    container: `a list of readings, one a line: ${names.size} signals at ${moments.size} moments`,
    text: tabbed([...rows.slice(0, head.line).filter((r) => r.some((c) => c !== '')), header, ...body]),
    unread: left > 0 ? [`${left} readings without a moment, a signal or a figure, or given twice`] : [],
  };
}
