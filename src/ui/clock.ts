const two = (n: number): string => String(n).padStart(2, '0');

/** The day and the time of day where the reader sits, as they stand in a record. */
export function stampNow(now: Date = new Date()): { readonly date: string; readonly time: string } {
  return {
    date: `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`,
    time: `${two(now.getHours())}:${two(now.getMinutes())}`,
  };
}

/** Until this hour a night still belongs to the day before. */
const NIGHT_ENDS = '06:00';

/** The time of day now, if the day ("2026-04-18") is today or the night after it; null: another day's time is not known. */
export function timeOnDay(day: string, now: Date = new Date()): string | null {
  const { date, time } = stampNow(now);
  if (date === day) return time;
  const before = stampNow(new Date(now.getFullYear(), now.getMonth(), now.getDate() - 1));
  return before.date === day && time < NIGHT_ENDS ? time : null;
}
