import { cutText } from '../cut-text';
import type { RunDoc } from '../documents/run';
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
      return m ? ([[m[1]!.toLowerCase(), m[2]!]] as [string, string][]) : [];
    }),
  );
}

function figure(text: string, dimension: Dimension, otherwise: string): number | null {
  const number = readNumber(text, dimension);
  if (!number) return null;
  const unit = unitByWord(number.rest.split(/\s*[,(]/)[0]! || otherwise, dimension) ?? unitByWord(otherwise, dimension);
  return unit ? toSI(number.value, unit) : null;
}

const pictureOf = (name: string | null, error: number | null): RunDoc['picture'] =>
  name === null || error === null || !(error >= 0 && error <= 1) ? null : { name: cutText(name, 255), error_pct: 100 * error };

export function preambleFacts(preamble: readonly string[]): PreambleFacts {
  const found = entries(preamble);
  const of = (name: RegExp): string | null => found.find(([key]) => name.test(key))?.[1] ?? null;
  const number = (name: RegExp, dimension: Dimension, otherwise: string): number | null => {
    const text = of(name);
    return text === null ? null : figure(text, dimension, otherwise);
  };
  const correction = of(/correction/);
  const at = of(/measured at|measured/) ?? '';
  const p_Pa = number(/baro|air pressure/, 'pressure', 'hPa');
  const T_K = number(/^air temp|ambient/, 'temperature', 'C');
  const rh = number(/humid/, 'share', '%');
  return {
    carried: (correction && CORRECTIONS.find(([p]) => p.test(correction))?.[1]) || 'unknown',
    weather: { ...(p_Pa !== null && { p_Pa }), ...(T_K !== null && { T_K }), ...(rh !== null && { rh }) },
    takenOn: /(\d{4}-\d{2}-\d{2})/.exec(of(/^date/) ?? '')?.[1] ?? null,
    measuredAt: /wheel/i.test(at) ? 'wheels' : /hub/i.test(at) ? 'hub' : /crank|engine|flywheel/i.test(at) ? 'crank' : 'unknown',
    gear: cutText(of(/^gear/) ?? '', 20),
    coolantStart_K: number(/coolant/, 'temperature', 'C'),
    takenAt: /\b([01]\d|2[0-3]):[0-5]\d/.exec(of(/^(time|start)/) ?? of(/^date/) ?? '')?.[0] ?? null,
    pulley: cutText(of(/^pulley/) ?? '', 60),
    fuel: cutText(of(/^fuel$/) ?? '', 40),
    tune: cutText(of(/^(tune|map name|calibration)/) ?? '', 80),
    keyOn_Pa: number(/key ?on/, 'pressure', 'kPa'),
    picture: pictureOf(of(/^from a picture/), number(/^reading error/, 'share', '%')),
  };
}
