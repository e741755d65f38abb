import { capital } from '@/core/cut-text';
import type { WavePurpose, WaveStretch } from '@/core/job/wave-answer';
import type { FigureKey, InletFigures, LeftOut } from '@/core/job/wave-inlet';
import type { MeasureName, UnitPack } from '@/core/units/measures';
import { formatNumber, formatQuantity, formatSigned } from '@/core/units/quantity';
import { msg } from './messages';

export const LEFT_OUT_WORDS: Readonly<Record<LeftOut, string>> = {
  boostHeld:
    'Boost and charge temperature are held as the even-flow model has them: the compressor does not answer the waves. A turbine is taken to hold as much before it as the compressor gives.',
  throttleBeforeBlower: 'The throttle stands before the blower: it is not among these waves. What it costs, the even-flow view tells.',
  restrictorAsLoss: 'A restrictor counts as a loss that grows with the flow: where it chokes, the even-flow view tells.',
  airboxAsLoss: 'The airbox ahead of the throttle counts as a loss, not as a volume that rings.',
  airboxAsOpenAir: 'The airbox is large enough to count as open air; its filter and duct are left out here.',
  sharedPathOfTrumpets: 'What the trumpets share counts in the even-flow view only.',
  evenFiring: 'Cylinders are taken as firing evenly.',
};

export const FIGURE_WORDS: Readonly<Record<FigureKey, { name: string; measure: MeasureName }>> = {
  length_m: { name: 'runner length', measure: 'length' },
  mouthBore_m: { name: 'bore at the mouth', measure: 'bore' },
  valveBore_m: { name: 'bore at the valve', measure: 'bore' },
  edgeRadius_m: { name: 'edge of the mouth', measure: 'bore' },
  throttleAt_m: { name: 'place of the blade', measure: 'length' },
  plenum_m3: { name: 'plenum volume', measure: 'displacement' },
  inletCount: { name: 'inlet valves', measure: 'count' },
  inletDiameter_m: { name: 'inlet valve', measure: 'bore' },
  inletLift_m: { name: 'inlet lift', measure: 'bore' },
  inletDuration_rad: { name: 'inlet duration', measure: 'angle' },
  inletCentre_rad: { name: 'inlet lobe centre', measure: 'angle' },
  exhaustCount: { name: 'exhaust valves', measure: 'count' },
  exhaustDiameter_m: { name: 'exhaust valve', measure: 'bore' },
  exhaustLift_m: { name: 'exhaust lift', measure: 'bore' },
  exhaustDuration_rad: { name: 'exhaust duration', measure: 'angle' },
  exhaustCentre_rad: { name: 'exhaust lobe centre', measure: 'angle' },
  rod_m: { name: 'rod', measure: 'length' },
};

export const PURPOSE_WORDS: Readonly<Record<WavePurpose, string>> = {
  peak: msg.purposePeak,
  band: msg.purposeBand,
  low: msg.purposeLow,
};

const rpm = (n: number): string => formatNumber(Math.round(n / 50) * 50, 0);
/** An engine speed as it is spoken of: to fifty. */
export const rpmWords = (n: number): string => `${rpm(n)} rpm`;
const pct = (share: number): string => `${formatNumber(Math.abs(share) * 100, 1)} %`;

/** What is tried, as the subject of a sentence. */
export function triedWords(now: InletFigures, trial: InletFigures, pack: UnitPack): string {
  const parts = [
    trial.length_m !== now.length_m && `a ${formatQuantity(trial.length_m, 'length', pack)} runner`,
    trial.mouthBore_m !== now.mouthBore_m && `a mouth of ${formatQuantity(trial.mouthBore_m, 'bore', pack)}`,
    trial.plenum_m3 !== now.plenum_m3 && `a plenum of ${formatQuantity(trial.plenum_m3, 'displacement', pack)}`,
  ].filter((p): p is string => p !== false);
  const text = parts.join(' with ');
  return capital(text);
}

/** Where a stretch lies: at the ends of the range it is "below" or "above". */
function where(s: WaveStretch, range: readonly [number, number]): string {
  if (s.from_rpm <= range[0] && s.to_rpm >= range[1]) return 'at every speed';
  if (s.from_rpm <= range[0]) return `below ${rpm(s.to_rpm)} rpm`;
  if (s.to_rpm >= range[1]) return `above ${rpm(s.from_rpm)} rpm`;
  if (s.from_rpm === s.to_rpm) return `near ${rpm(s.from_rpm)} rpm`;
  return `from ${rpm(s.from_rpm)} to ${rpm(s.to_rpm)} rpm`;
}

/** "A 310 mm runner fills the engine 2.1 % better from 3,500 to 5,000 rpm and 1.4 % worse above 6,400 rpm." */
export function effectSentence(subject: string, stretches: readonly WaveStretch[], range: readonly [number, number]): string {
  if (stretches.length === 0) return `${subject} makes no difference that matters at any speed.`;
  const better = stretches.find((s) => s.share > 0);
  const worse = stretches.find((s) => s.share < 0);
  const say = (s: WaveStretch): string => `${pct(s.share)} ${s.share > 0 ? 'better' : 'worse'} ${where(s, range)}`;
  const both = [better, worse].filter((s): s is WaveStretch => s !== undefined).sort((a, b) => stretches.indexOf(a) - stretches.indexOf(b));
  return `${subject} fills the engine ${both.map(say).join(' and ')}.`;
}

/** What the waves say of a throttle where it is decided, beside what even flow says; nothing where they were not asked. */
export function expectedWithWaves(waves: {
  readonly asked: boolean;
  readonly gain_pct: number | null;
  readonly done: boolean;
  readonly own: boolean;
  readonly assumed: number;
}): string {
  if (!waves.asked) return '';
  if (!waves.done) return 'The waves in the inlet are being computed.';
  if (waves.gain_pct === null) return 'What the waves in the inlet do to it cannot be told: too few engine speeds came out.';
  const believe = waves.own
    ? ': believe that figure, even flow says too little of a cylinder’s own gulps, and the day is sized for it'
    : '';
  const rests =
    waves.assumed > 0
      ? ` It rests on ${waves.assumed} assumed ${waves.assumed === 1 ? 'figure' : 'figures'} of the inlet (Air, Waves).`
      : '';
  return `With the waves in the inlet it is ${formatSigned(waves.gain_pct, 1, '%')} there${believe}.${rests}`;
}
