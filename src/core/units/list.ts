/** Of "3.32:1" and "3.32 to 1" what counts is before it. */
const TO_ONE = /\s*(?::|to)\s*1(?=$|[\s;/,])/gi;
/** A comma that parts figures has a space behind it, stands at the end, or is one of several beside points. */
const PARTS = /[\s;/|]+|,(?=\s|$)/;
const FIGURE = /^\d+(?:[.,]\d+)?$/;
const BY_COMMAS = /^\d+(?:\.\d+)?(?:,\d+(?:\.\d+)?)+$/;

/**
 * Plain figures one after the other as people write them: "3.32 1.96 1.36", "3,32; 1,96", "3.32, 1.96", "3.32:1 / 1.96:1".
 * Returns them in their order, or the first piece that is none of them: nothing is left out.
 */
export function readList(text: string): { readonly values: readonly number[] } | { readonly unread: string } {
  const pieces = text
    .replace(TO_ONE, '')
    .split(PARTS)
    .map((t) => t.trim())
    .filter((t) => t !== '')
    .flatMap((t) => (t.includes('.') && BY_COMMAS.test(t) ? t.split(',') : [t]));
  const unread = pieces.find((t) => !FIGURE.test(t));
  return unread === undefined ? { values: pieces.map((t) => Number(t.replace(',', '.'))) } : { unread };
}
