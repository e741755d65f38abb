import { cutText } from '../cut-text';
import type { RunDoc } from '../documents/run';
import { CAR_TEMPERATURE_K, KEY_ON_Pa, notWithin, WEATHER, type Within } from '../documents/within';
import { readNumber } from '../units/quantity';
import { toSI, unitByWord, type Dimension } from '../units/units';

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
  /** Names of what stands there and says nothing that is known here, as they are written. */
  readonly unused: readonly string[];
}

const CORRECTIONS: readonly (readonly [RegExp, RunDoc['carried']])[] = [
  [/j ?1349|\bsae\b/i, 'SAE J1349'],
  [/j ?607|\bstd\b/i, 'STD'],
  [/din ?70020|\bdin\b/i, 'DIN 70020'],
  [/iso ?1585/i, 'ISO 1585'],
  [/uncorrected|none|\boff\b/i, 'none'],
];

/** "key: value", "key = value" or a cell row of them. */
function entries(preamble: readonly string[]): [string, string][] {
  return preamble.flatMap((line) =>
    line.split(/[\t;]/).flatMap((cell) => {
      const m = /^\W*([\p{L} .]+?)\s*[:=]\s*(.+?)\s*$/u.exec(cell.replace(/^"|"$/g, ''));
      return m ? ([[m[1]!, m[2]!]] as [string, string][]) : [];
    }),
  );
}

/** A figure with the unit it stands in, or, where none stands there, the one it is likely to be in; null where none of it can be. */
function figure(text: string, dimension: Dimension, bare: (value: number) => string | null, within: Within): number | null {
  const number = readNumber(text, dimension);
  if (!number) return null;
  const word = number.rest.split(/\s*[,(]/)[0]!;
  const unit = unitByWord(word === '' ? (bare(number.value) ?? '') : word, dimension);
  const si = unit ? toSI(number.value, unit) : NaN;
  return notWithin(si, within) === null ? si : null;
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

export function preambleFacts(preamble: readonly string[]): PreambleFacts {
  const found = entries(preamble);
  const used = new Set<string>();
  const of = (name: RegExp): string | null => {
    const entry = found.find(([key]) => name.test(key.toLowerCase()));
    if (entry) used.add(entry[0]);
    return entry?.[1] ?? null;
  };
  const number = (name: RegExp, dimension: Dimension, bare: (value: number) => string | null, within: Within): number | null => {
    const text = of(name);
    return text === null ? null : figure(text, dimension, bare, within);
  };
  const correction = of(/correction/);
  const at = of(/measured at|measured/) ?? '';
  const BAROMETER = /baro|air pressure|luftdruck|pression atmo/;
  const p_Pa = number(BAROMETER, 'pressure', barometerUnit, WEATHER.p_Pa);
  const T_K = number(/^air temp|^air$|ambient|lufttemp|temp[ée]rature (de l.)?air/, 'temperature', airUnit(of(BAROMETER)), WEATHER.T_K);
  const rh = number(/humid|^r\.?h\b|feucht/, 'share', humidityUnit, WEATHER.rh);
  const facts = {
    carried: (correction && CORRECTIONS.find(([p]) => p.test(correction))?.[1]) || 'unknown',
    weather: { ...(p_Pa !== null && { p_Pa }), ...(T_K !== null && { T_K }), ...(rh !== null && { rh }) },
    takenOn: /(\d{4}-\d{2}-\d{2})/.exec(of(/^date/) ?? '')?.[1] ?? null,
    measuredAt: /wheel/i.test(at) ? 'wheels' : /hub/i.test(at) ? 'hub' : /crank|engine|flywheel/i.test(at) ? 'crank' : 'unknown',
    gear: cutText(of(/^gear/) ?? '', 20),
    coolantStart_K: number(/coolant/, 'temperature', coolantUnit, CAR_TEMPERATURE_K),
    takenAt: /\b([01]\d|2[0-3]):[0-5]\d/.exec(of(/^(time|start)/) ?? of(/^date/) ?? '')?.[0] ?? null,
    pulley: cutText(of(/^pulley/) ?? '', 60),
    fuel: cutText(of(/^fuel$/) ?? '', 40),
    tune: cutText(of(/^(tune|map name|calibration)/) ?? '', 80),
    keyOn_Pa: number(/key ?on/, 'pressure', barometerUnit, KEY_ON_Pa),
    picture: pictureOf(
      of(/^from a picture/),
      number(/^reading error/, 'share', () => '%', WEATHER.rh),
    ),
  } satisfies Omit<PreambleFacts, 'unused'>;
  return { ...facts, unused: [...new Set(found.map(([key]) => key))].filter((key) => !used.has(key)) };
}
