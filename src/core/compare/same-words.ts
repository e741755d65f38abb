const ORDINALS = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth'];

/** Blanks say nothing but between two figures: "84 mm" is 84mm, and map 1 2 is not map 12. */
const withoutBlanks = (text: string): string => text.replace(/(?<!\d)\s+|\s+(?!\d)/g, '');

/** What a record's field means, however it is written: "4", "4th", "fourth gear" are one gear, "98RON" and "98 ron" one fuel. */
export function meaningOf(field: string, words: string): string {
  const plain = words.trim().toLowerCase();
  if (field !== 'gear') return withoutBlanks(plain);
  const figures = plain.match(/\d+/g);
  if (figures) return figures.join('-');
  const worded = ORDINALS.findIndex((w) => plain.startsWith(w));
  return worded < 0 ? withoutBlanks(plain) : String(worded + 1);
}

/** Each meaning once, in the words it was first written in. */
export function meanings(field: string, written: readonly string[]): ReadonlyMap<string, string> {
  const found = new Map<string, string>();
  for (const words of written) {
    const meaning = meaningOf(field, words);
    if (!found.has(meaning)) found.set(meaning, words.trim());
  }
  return found;
}
