/** One way in which a header's cell may hold a name and a unit. */
export interface HeaderSplit {
  readonly name: string;
  readonly unit: string;
  /**
   * What parts them: brackets, a mark with a blank beside it (", kW", "/ kW", "in kW"), a slash or another mark between two words
   * ("boost/bar", "torque_Nm", "coolant-F"), a sign that is never part of a name ("RH%"), or no more than a blank.
   */
  readonly by: 'brackets' | 'apart' | 'slash' | 'underscore' | 'mark' | 'sign' | 'blank';
}

/** After all others: a unit may have a slash of its own ("Speed km/h", "MAF_g/s"). */
const SLASH = /^([^/]+)\/(\S+)$/;
const BRACKETS = /\s*[([{]([^()[\]{}]*(?:\([^()]*\))?[^()[\]{}]*)[)\]}]/g;

const PARTED: readonly (readonly [HeaderSplit['by'], RegExp])[] = [
  ['apart', /^(.+?)(?:\s+\/\s*|\s*\/\s+|\s*,\s*|\s+in\s+)(\S.*)$/],
  ['underscore', /^(.*[^_])_+([^_\s]+)$/],
  ['mark', /^(.*[^\s:.;-])\s*[:.;-]\s*([^\s:.;-]+)$/],
  ['sign', /^(.*[^\s%°])\s*(%|°\s*[a-z]+)$/i],
];

/** A longer cell is no header; taking it apart would take the square of its length. */
const LONGEST = 200;

/**
 * The ways in which a header's cell may be a name and a unit, the plainest first; whether what stands there is a unit, the caller
 * says. Brackets count from the last one: of "pressure (QFE) [hPa]" the last are the likeliest. A cell without any of it has none.
 *
 * @param cell as it stands in the file.
 */
export function headerSplits(cell: string): HeaderSplit[] {
  const text = cell.replace(/\s+/g, ' ').trim();
  if (text.length > LONGEST) return [];
  const splits: HeaderSplit[] = [...text.matchAll(BRACKETS)].reverse().map((m) => ({
    name: `${text.slice(0, m.index)}${text.slice(m.index + m[0].length)}`.trim(),
    unit: m[1]!.trim(),
    by: 'brackets',
  }));
  for (const [by, pattern] of PARTED) {
    const m = pattern.exec(text);
    if (m) splits.push({ name: m[1]!.trim(), unit: m[2]!.trim(), by });
  }
  const words = text.split(' ');
  for (const last of [2, 1])
    if (words.length > last) splits.push({ name: words.slice(0, -last).join(' '), unit: words.slice(-last).join(' '), by: 'blank' });
  const slash = SLASH.exec(text);
  if (slash) splits.push({ name: slash[1]!.trim(), unit: slash[2]!.trim(), by: 'slash' });
  return splits;
}
