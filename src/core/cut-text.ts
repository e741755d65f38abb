/** The first `most` units of a text; a character of two units is never cut in half: what is left of it could not be stored. */
export function cutText(text: string, most: number): string {
  if (text.length <= most) return text;
  const last = text.charCodeAt(most - 1);
  return text.slice(0, last >= 0xd800 && last <= 0xdbff ? most - 1 : most);
}

/** The text as a sentence begins. */
export const capital = (text: string): string => `${text.charAt(0).toUpperCase()}${text.slice(1)}`;
