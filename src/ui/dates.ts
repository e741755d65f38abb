/** Dates as a reader sees them: one way everywhere, the month in words, in the order of the reader's own language region. */
export interface Dates {
  /** A day: "18 Apr 2026". */
  readonly day: (at: string | number | Date) => string;
  /** A day and a time of day. */
  readonly dayTime: (at: string | number | Date) => string;
  readonly time: (at: string | number | Date) => string;
  /** A day that stands for itself, "2026-04-18", whatever the zone. */
  readonly plainDay: (day: string) => string;
}

export const USUAL_LOCALE = 'en-GB';

/** The first language of an Accept-Language header that dates can be written in. */
export function localeOf(header: string | null | undefined): string {
  for (const part of (header ?? '').split(',')) {
    const tag = part.split(';')[0]!.trim();
    try {
      if (tag !== '' && tag !== '*' && Intl.DateTimeFormat.supportedLocalesOf(tag).length > 0) return tag;
    } catch {
      // No language tag at all: the next one may be.
    }
  }
  return USUAL_LOCALE;
}

/** Whether this is the name of a zone, such as "Europe/Berlin". */
export function isZone(zone: string): boolean {
  if (zone === '') return false;
  try {
    return Intl.DateTimeFormat(USUAL_LOCALE, { timeZone: zone }).resolvedOptions().timeZone !== '';
  } catch {
    return false;
  }
}

const DAY = { day: 'numeric', month: 'short', year: 'numeric' } as const;
const TIME = { hour: '2-digit', minute: '2-digit' } as const;

/** Writers of dates by language and zone: a server would make the same four for every page. */
const written = new Map<string, Dates>();
const MOST_WRITTEN = 200;

/** How dates are written in a language, in a zone; undefined: the zone of this machine. */
export function datesOf(locale: string, zone?: string): Dates {
  const key = `${locale} ${zone ?? ''}`;
  const found = written.get(key) ?? writersOf(locale, zone);
  if (written.size >= MOST_WRITTEN) written.clear();
  written.set(key, found);
  return found;
}

function writersOf(locale: string, zone?: string): Dates {
  const timeZone = zone === undefined || !isZone(zone) ? {} : { timeZone: zone };
  const day = new Intl.DateTimeFormat(locale, { ...DAY, ...timeZone });
  const dayTime = new Intl.DateTimeFormat(locale, { ...DAY, ...TIME, ...timeZone });
  const time = new Intl.DateTimeFormat(locale, { ...TIME, ...timeZone });
  const plain = new Intl.DateTimeFormat(locale, { ...DAY, timeZone: 'UTC' });
  const date = (at: string | number | Date): Date => new Date(at);
  return {
    day: (at) => day.format(date(at)),
    dayTime: (at) => dayTime.format(date(at)),
    time: (at) => time.format(date(at)),
    plainDay: (text) => (/^\d{4}-\d{2}-\d{2}$/.test(text) ? plain.format(date(`${text}T00:00:00Z`)) : text),
  };
}

/** When a day ("2026-04-18") begins in a zone. */
export function startOfDay(day: string, zone: string): Date {
  const clock = new Intl.DateTimeFormat('en-GB', {
    ...{ year: 'numeric', month: 'numeric', day: 'numeric', hour: 'numeric', minute: 'numeric', second: 'numeric' },
    hourCycle: 'h23',
    timeZone: isZone(zone) ? zone : 'UTC',
  });
  /** How far the zone's clock is ahead of universal time then, ms. */
  const ahead = (at: number): number => {
    const part = Object.fromEntries(clock.formatToParts(at).map((p) => [p.type, Number(p.value)]));
    return Date.UTC(part['year']!, part['month']! - 1, part['day'], part['hour'], part['minute'], part['second']) - at;
  };
  const midnight = Date.parse(`${day}T00:00:00Z`);
  // The clock may be put on or back between the guess and the day's beginning: asked again there.
  return new Date(midnight - ahead(midnight - ahead(midnight)));
}
