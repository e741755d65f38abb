import type { MeasureName } from '../units/measures';

/** One figure or word that differs between two states of a document. */
export interface DocumentChange {
  /** Its place, outermost first, in words. */
  readonly place: readonly string[];
  readonly from: unknown;
  readonly to: unknown;
  /** How figures at this place are shown; null: as they stand. */
  readonly measure: MeasureName | null;
}

/** More changes than this are not listed one by one. */
export const MOST_CHANGES = 200;

/** A unit at the end of a name says what its figures are. */
const BY_UNIT: readonly (readonly [RegExp, MeasureName])[] = [
  [/mileage_m$/, 'odometer'],
  [/_m3ps$/, 'benchFlow'],
  [/_m3$/, 'displacement'],
  [/_m$/, 'bore'],
  [/_mps$/, 'roadSpeed'],
  [/^(p|keyOn)_Pa$/, 'barometer'],
  [/_Pa$/, 'plenum'],
  [/_K$/, 'temperature'],
  [/_rpm$/, 'rpm'],
  [/_rad$/, 'angle'],
  [/_kg$/, 'mass'],
  [/_s$/, 'time'],
  [/_V$/, 'voltage'],
  [/^rh$/, 'share'],
];

/** How a figure under this name is shown; null: as it stands. */
export const placeMeasure = (key: string): MeasureName | null => BY_UNIT.find(([ends]) => ends.test(key))?.[1] ?? null;

/** Words of the trade for names that are kept as they were first stored. */
const TRADE_WORDS: readonly (readonly [RegExp, string])[] = [
  [/\bopening\b/, 'bore'],
  [/\blargest bore\b/, 'largest manifold bore'],
  [/^unit$/, 'throttle'],
  [/\bunit id\b/, 'throttle'],
  [/^p$/, 'pressure'],
  [/^t$/, 'air temperature'],
  [/^rh$/, 'humidity'],
  [/^ve$/, 'efficiency'],
];

/** A name out of a document in words: "manifoldOpening_m" is "manifold bore". */
export function placeWords(key: string): string {
  if (/^\d+$/.test(key)) return `no. ${Number(key) + 1}`;
  const words = key
    .replace(/_[A-Za-z0-9]+$/, '')
    .replace(/([a-z])([A-Z])/g, (_m, a: string, b: string) => `${a} ${b.toLowerCase()}`)
    .toLowerCase();
  return TRADE_WORDS.reduce((text, [from, to]) => text.replace(from, to), words);
}

const isPart = (v: unknown): v is object => typeof v === 'object' && v !== null;
/** A part that is not there yet is an empty one beside the part that came. */
const whole = (v: unknown, other: unknown): unknown => ((v === null || v === undefined) && isPart(other) && !Array.isArray(other) ? {} : v);

/** Every single figure, word or part that differs between two states of one document; same length lists go part by part. */
export function documentChanges(from: unknown, to: unknown): DocumentChange[] {
  const found: DocumentChange[] = [];
  const walk = (a: unknown, b: unknown, path: readonly string[]): void => {
    if (found.length >= MOST_CHANGES || Object.is(a, b)) return;
    const [x0, y0] = [whole(a, b), whole(b, a)];
    const objects = isPart(x0) && isPart(y0) && Array.isArray(x0) === Array.isArray(y0);
    const lists = Array.isArray(a) && Array.isArray(b) && a.length !== b.length;
    if (objects && !lists) {
      const [x, y] = [x0 as Record<string, unknown>, y0 as Record<string, unknown>];
      for (const key of new Set([...Object.keys(x), ...Object.keys(y)])) walk(x[key], y[key], [...path, key]);
      return;
    }
    const last = path.at(-1) ?? '';
    found.push({
      place: path.map(placeWords),
      from: a,
      to: b,
      measure: placeMeasure(last),
    });
  };
  walk(from, to, []);
  return found;
}
