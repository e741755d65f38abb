const two = (n: number): string => String(n).padStart(2, '0');

/** The day and the time of day where the reader sits, as they stand in a record. */
export function stampNow(now: Date = new Date()): { readonly date: string; readonly time: string } {
  return {
    date: `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`,
    time: `${two(now.getHours())}:${two(now.getMinutes())}`,
  };
}
