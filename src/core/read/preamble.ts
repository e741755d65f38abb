import { cutText } from '../cut-text';
import type { RunDoc } from '../documents/run';
import { CAR_TEMPERATURE_K, KEY_ON_Pa, notWithin, WEATHER, type Within } from '../documents/within';
import { readNumber } from '../units/quantity';
import { toSI, unitByWord, type Dimension } from '../units/units';
import { preambleEntries } from './preamble-lines';
import { AT_SEA, without } from './rules';
import { standardIn } from './standards';

/** What the lines before a table say about the run, as far as they say it plainly. */
export interface PreambleFacts {
  readonly carried: RunDoc['carried'];
  readonly weather: { p_Pa?: number; T_K?: number; rh?: number };
  readonly takenOn: string | null;
  readonly measuredAt: RunDoc['measuredAt'];
  readonly gear: string;
  readonly coolantStart_K: number | null;
  readonly takenAt: string | null;
  readonly pulley: string;
  readonly fuel: string;
  readonly tune: string;
  /** The manifold sensor's reading with the key on and the engine off. */
  readonly keyOn_Pa: number | null;
  /** A curve read off a picture, and how well. */
  readonly picture: RunDoc['picture'];
  /** Names of what stands there and says nothing that is known here, as they are written; lines without a name in quotes. */
  readonly unused: readonly string[];
  /** Figures without a unit, with the one they were taken in. */
  readonly guessed: readonly string[];
  /** What is known by its name and could not be read, with what stands there: it is not in the record. */
  readonly unread: readonly string[];
}

const UNCORRECTED = /uncorrected|not corrected|unkorrigiert|non corrig|sin corregir|^(none|off|no|raw|keine|aucune|ninguna)\b/i;
const OFF = /\b(none|off)\b/i;
/** Which correction figures carry, by what stands behind its name. */
const correctionIn = (text: string): RunDoc['carried'] | null =>
  UNCORRECTED.test(text.trim()) ? 'none' : (standardIn(text) ?? (OFF.test(text) ? 'none' : null));

/** What is known by its name, in small letters. */
const NAMES = {
  barometer: without(
    AT_SEA,
    /baro|(?:air|ambient|atmospheric) press|luftdruck|umgebungsdruck|luchtdruk|lufttryck|(?:pression|presi[oó]n|pressione|pressão|ciśnienie) atmo/,
  ),
  air: /^air temp|^air$|ambient(?! ?press)|^luft$|luft-?temp|umgebungstemp|omgevingstemp|temp[ée]rature (de l.)?air|temperatura (del(l.)? ?)?(aire|aria)/,
  humidity: /humid|^r\.?h\b|feucht|humedad|umidit|vochtig|luftfukt|wilgotno/,
  time: /^(time|start|uhrzeit|zeit$|heure|hora|ora$|tijd$|tid$)/,
  correction: /correction|korrektur|correcci[oó]n|correzione|correç|correctie|korrig|^norm$|^norme$|^norma$/,
  date: /^(date|datum|fecha|dato$)/,
  measured: /measured at|measured/,
  gear: /^(gear|gang|marcha|marcia|versnelling|växel|bieg)\b/,
  coolant: /coolant|k(ü|ue)hl(wasser|mittel)|temp\S* (de |del |dell.|d.)?(l.)?(eau|agua|acqua)|refrigerante|koel(water|vloeistof)/,
  pulley: /^pulley/,
  fuel: /^(fuel|kraftstoff|carburant|combustible|carburante|brandstof|bränsle|paliwo)$/,
  tune: /^(tune|map name|calibration)/,
  keyOn: /key ?on/,
  picture: /^from a picture/,
  readingError: /^reading error/,
} as const;
/** Those that a figure follows, with nothing between. */
const FIGURES: readonly RegExp[] = [NAMES.barometer, NAMES.air, NAMES.humidity, NAMES.date, NAMES.time, NAMES.coolant];
const followedByFigure = (name: string): boolean => FIGURES.some((p) => p.test(name));

/** A figure with the unit it stands in, or, where none stands there, the one it is likely to be in; null where none of it can be. */
function figure(
  text: string,
  dimension: Dimension,
  bare: (value: number) => string | null,
  within: Within,
): { readonly si: number; readonly guessed: string | null } | null {
  const number = readNumber(text, dimension);
  if (!number) return null;
  const said = number.rest.split(/\s*[,(]/)[0]!;
  const word = said === '' ? (bare(number.value) ?? '') : said;
  const unit = unitByWord(word, dimension);
  const si = unit ? toSI(number.value, unit) : NaN;
  return unit && notWithin(si, within) === null
    ? { si, guessed: said === '' ? word.replace(/^[CF]$/, '°$&').replace(/^of 1$/, 'a share of 1') : null }
    : null;
}

/** A barometer's unit by its figure; between 650 and 800 it could be hPa on a mountain as well as mmHg, and is left to be asked. */
const barometerUnit = (v: number): string | null =>
  (
    [
      ['bar', 0.5, 1.1],
      ['psi', 7, 16],
      ['inHg', 20, 32.5],
      ['kPa', 50, 110],
      ['hPa', 500, 650],
      ['hPa', 800, 1100],
      ['Pa', 50_000, 110_000],
    ] as const
  ).find(([, low, high]) => v >= low && v <= high)?.[0] ?? null;

/**
 * A station that gives inches of mercury gives °F, one that gives hPa or kPa °C; without it a bare temperature could be either, and
 * where the day would be hotter than 45 °C or colder than −30 °C it is more likely the other.
 */
const airUnit = (barometer: string | null): ((v: number) => string | null) => {
  const number = barometer === null ? null : readNumber(barometer, 'pressure');
  const word = number && (number.rest.split(/\s*[,(]/)[0]! || barometerUnit(number.value));
  const unit = word ? unitByWord(word, 'pressure')?.id : undefined;
  if (unit === undefined) return () => null;
  const [likely, low, high] = unit === 'inHg' || unit === 'psi' ? (['F', -22, 113] as const) : (['C', -30, 45] as const);
  return (v) => (v >= low && v <= high ? likely : null);
};
/** No coolant is above 130 °C, and none below 55 °C, which is 130 °F, when a run begins. */
const coolantUnit = (v: number): string => (v > 130 ? 'F' : 'C');
const humidityUnit = (v: number): string => (v <= 1 ? 'of 1' : '%');

const pictureOf = (name: string | null, error: number | null): RunDoc['picture'] =>
  name === null || error === null || !(error >= 0 && error <= 1) ? null : { name: cutText(name, 255), error_pct: 100 * error };

/** How months begin, in English and the languages next to it. */
const MONTHS = [
  ...['jan|ene', 'feb|f[ée]v', 'mar|mär|maer|mrt', 'apr|avr|abr', 'may|mai|mei', 'jun|juin'],
  ...['jul|juil', 'aug|ao[uû]t|ago', 'sep', 'oct|okt', 'nov', 'dec|dez|d[ée]c|dic'],
].map((begins) => new RegExp(`(?<!\\p{L})(?:${begins})`, 'iu'));

/** A day of the calendar as "2026-04-18"; null where there is no such day. */
function calendarDay(year: number, month: number, day: number): string | null {
  const leap = year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0);
  const days = [31, leap ? 29 : 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31][month - 1];
  if (days === undefined || day < 1 || day > days) return null;
  return [String(year), String(month).padStart(2, '0'), String(day).padStart(2, '0')].join('-');
}

/** The day in a text. Day and month between slashes or dashes are told apart where one of them can only be a day, else by nobody. */
function dayIn(text: string): string | null {
  const iso = /\b(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})\b/.exec(text);
  if (iso) return calendarDay(Number(iso[1]), Number(iso[2]), Number(iso[3]));
  const figures = /\b(\d{1,2})([-/.])(\d{1,2})\2(\d{4})\b/.exec(text);
  if (figures) {
    const [a, b, year] = [figures[1], figures[3], figures[4]].map(Number) as [number, number, number];
    if (figures[2] === '.' || a > 12 || a === b) return calendarDay(year, b, a);
    return b > 12 ? calendarDay(year, a, b) : null;
  }
  const month = MONTHS.findIndex((m) => m.test(text)) + 1;
  const [, day, year] = /\b(\d{1,2})(?:st|nd|rd|th)?\b.*?\b(\d{4})\b/.exec(text) ?? [];
  return month > 0 && day !== undefined ? calendarDay(Number(year), month, Number(day)) : null;
}

/** The time of day in a text, as "14:12". */
function timeIn(text: string): string | null {
  const m = /\b(\d{1,2}):([0-5]\d)(?::[0-5]\d(?:\.\d+)?)?(?:\s*([ap])\.?m\b)?/i.exec(text);
  if (!m) return null;
  const hour = Number(m[1]);
  const half = m[3]?.toLowerCase();
  if (half !== undefined && (hour < 1 || hour > 12)) return null;
  const full = half === undefined ? hour : (hour % 12) + (half === 'p' ? 12 : 0);
  return full > 23 ? null : `${String(full).padStart(2, '0')}:${m[2]}`;
}

const measuredIn = (text: string): RunDoc['measuredAt'] | null =>
  /wheel/i.test(text) ? 'wheels' : /hub/i.test(text) ? 'hub' : /crank|engine|flywheel/i.test(text) ? 'crank' : null;

/** The lines above a table, each taken once it was understood, so that the others can be told. */
class Lines {
  private readonly found: readonly (readonly [string, string])[];
  private readonly others: readonly string[];
  private readonly known = new Map<string, string>();
  private readonly taken = new Set<string>();
  private readonly guessed: string[] = [];

  constructor(preamble: readonly string[]) {
    const { entries, others } = preambleEntries(preamble, followedByFigure);
    this.found = entries;
    this.others = others;
  }

  text(name: RegExp): string | null {
    return this.found.find(([key]) => name.test(key.toLowerCase()))?.[1] ?? null;
  }

  /** What `read` makes of the first line of this name that it can make something of; null where it can of none. */
  take<T>(name: RegExp, read: (text: string, key: string) => T | null): T | null {
    for (const [key, text] of this.found.filter(([k]) => name.test(k.toLowerCase()))) {
      this.known.set(key, text);
      const value = read(text, key);
      if (value === null) continue;
      this.taken.add(key);
      return value;
    }
    return null;
  }

  figure(name: RegExp, dimension: Dimension, bare: (value: number) => string | null, within: Within): number | null {
    return this.take(name, (text, key) => {
      const found = figure(text, dimension, bare, within);
      if (found && found.guessed !== null) this.guessed.push(`${key} ${text.trim()} taken as ${found.guessed}`);
      return found && found.si;
    });
  }

  words(name: RegExp, most: number): string {
    return this.take(name, (text) => cutText(text, most)) ?? '';
  }

  left(): Pick<PreambleFacts, 'guessed' | 'unused' | 'unread'> {
    const unread = [...this.known].filter(([key]) => !this.taken.has(key));
    return {
      guessed: this.guessed,
      unused: [
        ...[...new Set(this.found.map(([key]) => key))].filter((key) => !this.known.has(key)),
        ...this.others.map((line) => `“${cutText(line, MOST_TOLD).replace(/[\s,;]+$/, '')}”`),
      ],
      unread: unread.map(([key, text]) => `${key}: ${cutText(text, MOST_TOLD)}`),
    };
  }
}

/** So much of a line that was not understood is told. */
const MOST_TOLD = 40;

export function preambleFacts(preamble: readonly string[]): PreambleFacts {
  const lines = new Lines(preamble);
  const p_Pa = lines.figure(NAMES.barometer, 'pressure', barometerUnit, WEATHER.p_Pa);
  const T_K = lines.figure(NAMES.air, 'temperature', airUnit(lines.text(NAMES.barometer)), WEATHER.T_K);
  const rh = lines.figure(NAMES.humidity, 'share', humidityUnit, WEATHER.rh);
  const takenAt = lines.take(NAMES.time, timeIn);
  const facts = {
    carried: lines.take(NAMES.correction, correctionIn) ?? 'unknown',
    weather: { ...(p_Pa !== null && { p_Pa }), ...(T_K !== null && { T_K }), ...(rh !== null && { rh }) },
    takenOn: lines.take(NAMES.date, dayIn),
    measuredAt: lines.take(NAMES.measured, measuredIn) ?? 'unknown',
    gear: lines.words(NAMES.gear, 20),
    coolantStart_K: lines.figure(NAMES.coolant, 'temperature', coolantUnit, CAR_TEMPERATURE_K),
    takenAt: takenAt ?? timeIn(lines.text(NAMES.date) ?? ''),
    pulley: lines.words(NAMES.pulley, 60),
    fuel: lines.words(NAMES.fuel, 40),
    tune: lines.words(NAMES.tune, 80),
    keyOn_Pa: lines.figure(NAMES.keyOn, 'pressure', barometerUnit, KEY_ON_Pa),
    picture: pictureOf(
      lines.take(NAMES.picture, (text) => text),
      lines.figure(NAMES.readingError, 'share', () => '%', WEATHER.rh),
    ),
  } satisfies Omit<PreambleFacts, 'guessed' | 'unused' | 'unread'>;
  return { ...facts, ...lines.left() };
}
