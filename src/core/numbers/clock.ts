const two = (n: number): string => String(n).padStart(2, '0');

/** Minutes of the day as a time of day, "14:05". */
export const clockOf = (minute: number): string => `${two(Math.floor(minute / 60))}:${two(Math.round(minute % 60))}`;

/** A time of day, "14:05", as minutes of the day. */
export const minuteOf = (at: string): number => Number(at.slice(0, 2)) * 60 + Number(at.slice(3, 5));
