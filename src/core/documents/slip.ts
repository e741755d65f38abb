/** Where a timing tower stands, m from the start line, in the order they are passed. */
export const MARKS_m = { t18_s: 18.288, t100_s: 100.584, t201_s: 201.168, t305_s: 304.8, t402_s: 402.336 } as const;
export type TimeMark = keyof typeof MARKS_m;
export const TIME_MARKS = Object.keys(MARKS_m) as TimeMark[];

export const COURSES = ['quarter', 'eighth'] as const;
/** How far is timed: a quarter of a mile (402 m) or an eighth (201 m). */
export type Course = (typeof COURSES)[number];
export const FINISH: Readonly<Record<Course, TimeMark>> = { quarter: 't402_s', eighth: 't201_s' };

/** What a timing slip says: seconds from the start to each mark and the speeds over the line, m/s. Null: not on the slip. */
export interface Slip {
  readonly reaction_s: number | null;
  readonly t18_s: number | null;
  readonly t100_s: number | null;
  readonly t201_s: number | null;
  readonly t305_s: number | null;
  readonly t402_s: number | null;
  readonly v201_mps: number | null;
  readonly v402_mps: number | null;
}
export type SlipField = keyof Slip;
export const NO_SLIP: Slip = {
  reaction_s: null,
  t18_s: null,
  t100_s: null,
  t201_s: null,
  t305_s: null,
  t402_s: null,
  v201_mps: null,
  v402_mps: null,
};

/** Fields of a course's slip in the order they are printed. */
export function slipFields(course: Course): readonly SlipField[] {
  return course === 'quarter'
    ? ['reaction_s', 't18_s', 't100_s', 't201_s', 'v201_mps', 't305_s', 't402_s', 'v402_mps']
    : ['reaction_s', 't18_s', 't100_s', 't201_s', 'v201_mps'];
}

/** Nothing on wheels does the first 60 ft faster, and nothing that is being driven does it slower. */
const FIRST_s = { least: 0.7, most: 8 } as const;
const FASTEST_mps = 160;
/** A car that pulls through does not get slower from stretch to stretch; a tenth slower, and it was lifted off. */
const LIFTED = 0.9;
/** Speed over the line against the mean over the stretch before it: a driver who held on is not slower. */
const TRAP_UNDER_MEAN = 0.93;
/** No car pulls harder towards the end than from the start: its speed grows with the root of the distance at most, and a margin. */
const ROOT_MARGIN = 1.1;
const trapOverMean = (from_m: number, to_m: number): number => (ROOT_MARGIN * 2) / (1 + Math.sqrt(from_m / to_m));

export type SlipIssue =
  | { readonly field: SlipField; readonly level: 'refused'; readonly code: 'order'; readonly after: TimeMark; readonly than_s: number }
  | {
      readonly field: SlipField;
      readonly level: 'refused';
      readonly code: 'too_fast' | 'too_slow';
      readonly from_m: number;
      readonly to_m: number;
      readonly speed_mps: number;
    }
  | { readonly field: SlipField; readonly level: 'refused'; readonly code: 'trap_high'; readonly most_mps: number }
  | { readonly field: SlipField; readonly level: 'doubt'; readonly code: 'lifted' | 'trap_low'; readonly expected_mps: number }
  | { readonly field: SlipField; readonly level: 'refused'; readonly code: 'reaction' };

/** Mean speed of the stretch that ends at a mark, and how far over it the speed at its end may be. */
type Stretches = Partial<Record<TimeMark, { mean: number; over: number }>>;

/** The speeds of a slip against the stretches they end, and against one another. */
function speedIssues(slip: Slip, stretch: Stretches): SlipIssue[] {
  const issues: SlipIssue[] = [];
  for (const [field, mark] of [
    ['v201_mps', 't201_s'],
    ['v402_mps', 't402_s'],
  ] as const) {
    const v = slip[field];
    const last = stretch[mark];
    if (v === null) continue;
    if (v > FASTEST_mps || v < 3) issues.push({ field, level: 'refused', code: 'trap_high', most_mps: FASTEST_mps });
    else if (last && v > last.over * last.mean)
      issues.push({ field, level: 'refused', code: 'trap_high', most_mps: last.over * last.mean });
    else if (last && v < TRAP_UNDER_MEAN * last.mean) issues.push({ field, level: 'doubt', code: 'trap_low', expected_mps: last.mean });
  }
  if (slip.v201_mps !== null && slip.v402_mps !== null && slip.v402_mps < LIFTED * slip.v201_mps)
    issues.push({ field: 'v402_mps', level: 'doubt', code: 'lifted', expected_mps: slip.v201_mps });
  return issues;
}

/**
 * What cannot be, or is hardly so, on a slip: times rise with distance and the speeds between the marks are possible ones.
 * A field that is refused stands for a misread or mistyped figure; a doubt is let through. Testing basis §3.
 */
export function slipIssues(slip: Slip): SlipIssue[] {
  const issues: SlipIssue[] = [];
  const { reaction_s } = slip;
  if (reaction_s !== null && (reaction_s < -2 || reaction_s > 10)) issues.push({ field: 'reaction_s', level: 'refused', code: 'reaction' });
  let before: { mark: TimeMark; m: number; s: number } | null = null;
  let mean_mps = 0;
  const stretch: Stretches = {};
  for (const mark of TIME_MARKS) {
    const s = slip[mark];
    if (s === null) continue;
    const m = MARKS_m[mark];
    if (before && s <= before.s) {
      issues.push({ field: mark, level: 'refused', code: 'order', after: before.mark, than_s: before.s });
      continue;
    }
    const from_m = before?.m ?? 0;
    const speed_mps = (m - from_m) / (s - (before?.s ?? 0));
    const first = !before && mark === 't18_s';
    if (speed_mps > FASTEST_mps || (first && s < FIRST_s.least))
      issues.push({ field: mark, level: 'refused', code: 'too_fast', from_m, to_m: m, speed_mps });
    else if (first ? s > FIRST_s.most : speed_mps < 3)
      issues.push({ field: mark, level: 'refused', code: 'too_slow', from_m, to_m: m, speed_mps });
    else if (before && speed_mps < LIFTED * mean_mps) issues.push({ field: mark, level: 'doubt', code: 'lifted', expected_mps: mean_mps });
    stretch[mark] = { mean: speed_mps, over: trapOverMean(from_m, m) };
    mean_mps = speed_mps;
    before = { mark, m, s };
  }
  issues.push(...speedIssues(slip, stretch));
  return issues;
}

export interface PlacedDigits {
  /** The figure with its point put in, as it stands on a slip. */
  readonly text: string;
  /** Every digit a slip prints is there: go on to the next field. */
  readonly done: boolean;
}

/** Digits before the point of each field, from the first digit: a quarter mile beginning with 1 is a time of ten and more. */
function before(field: SlipField, digits: string, unit: 'mph' | 'kmh'): number {
  const first = Number(digits[0] ?? '0');
  switch (field) {
    case 'reaction_s':
      // Printed as .521: three digits begin with the point; a fourth makes a whole second of the first.
      return digits.length > 3 && first <= 1 ? 1 : 0;
    case 't18_s':
      return 1;
    case 't100_s':
      return first === 1 && digits.length > 4 ? 2 : 1;
    case 't201_s':
      return first === 1 ? 2 : 1;
    case 't305_s':
    case 't402_s':
      return first <= 3 ? 2 : 1;
    default:
      return first <= (unit === 'kmh' ? 3 : 2) ? 3 : 2;
  }
}

/**
 * Digits as a thumb types them from a slip, without the point: "2145" at 60 ft is 2.145 s, "14321" at the quarter is
 * 14.321 s, "9587" in a trap is 95.87. Says when the field is full.
 */
export function placePoint(field: SlipField, digits: string, unit: 'mph' | 'kmh'): PlacedDigits {
  const decimals = field.startsWith('v') ? 2 : 3;
  const whole = before(field, digits, unit);
  const full = whole + decimals;
  const used = digits.slice(0, full);
  const text = used.length > whole ? `${used.slice(0, whole)}.${used.slice(whole)}` : used;
  // 0.521 may be typed with its nought, and 1.204 is a long one: after three digits there may be one more.
  const more = field === 'reaction_s' && whole === 0 && Number(digits[0] ?? '9') <= 1;
  return { text, done: used.length === full && !more };
}
