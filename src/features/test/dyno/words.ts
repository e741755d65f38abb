import type { Confounder } from '@/core/compare/confounders';
import type { SideComparison } from '@/core/compare/sides';
import type { UnitPack } from '@/core/units/measures';
import { formatNumber, formatQuantity, formatSigned } from '@/core/units/quantity';
import { rpmText } from '@/ui/answer/words';

export const THIRDS = ['the bottom third', 'the middle third', 'the top third'] as const;

export const runsEach = (c: SideComparison): string =>
  c.runsA === 1 && c.runsB === 1 ? 'one run a side' : `${c.runsA} stock and ${c.runsB} new ${c.runsA + c.runsB > 2 ? 'runs' : 'run'}`;

/** The answer to "did it do anything?", no stronger than the runs allow. */
export function comparisonAnswer(c: SideComparison, name: string): string {
  const { answer } = c;
  const best = formatSigned(answer.best_pct, 1, '%');
  const noise = `±${formatNumber(c.noise_pct, 1)} %`;
  const where = THIRDS[answer.bestThird];
  switch (answer.kind) {
    case 'gain':
      return `${name} gained: ${best} over ${where}, more than the ${noise} that noise alone could do.`;
    case 'loss':
      return `${name} lost: ${best} over ${where}, more than the ${noise} that noise alone could do.`;
    case 'mixed':
      return `${name} gained in one place and lost in another; look at the thirds.`;
    case 'inside the noise':
      return `Can’t tell yet: ${name} shows ${best} over ${where}, but ${runsEach(c)}: could be noise up to ${noise}.`;
  }
}

export function comparisonReason(c: SideComparison): string {
  const thirds = c.bandMean_pct.map((p, i) => `${THIRDS[i]} ${formatSigned(p, 1, '%')}`).join(', ');
  const source = c.noiseAssumed
    ? `The scatter of single runs (${formatNumber(c.noiseSd_pct, 1)} %) is assumed until runs are repeated.`
    : `The scatter of single runs (${formatNumber(c.noiseSd_pct, 2)} %) is this job’s own.`;
  const clear =
    c.answer.clearFrom_rpm !== null && c.answer.kind !== 'inside the noise'
      ? ` Clear of the noise from ${rpmText(c.answer.clearFrom_rpm)} up.`
      : '';
  return `${thirds.charAt(0).toUpperCase()}${thirds.slice(1)}.${clear} ${source}`;
}

export interface ConfounderWords {
  readonly what: string;
  readonly worth: string | null;
  readonly todo: string;
}

const pct = (value: number): string => formatSigned(value, 1, '%');

/** Each confounder in words: what it is, what it could be worth, what to do about it. */
export function confounderWords(c: Confounder, pack: UnitPack): ConfounderWords {
  switch (c.code) {
    case 'mixed_correction':
      return {
        what: `The sides carry different corrections: ${c.a} against ${c.b}.`,
        worth: `up to ${formatNumber(c.worth_pct, 0)} %`,
        todo: 'Enter what correction and weather each file has; it is then undone.',
      };
    case 'unknown_correction':
      return {
        what: `It is not known what correction ${c.runs.join(', ')} carries.`,
        worth: `up to ${formatNumber(c.worth_pct, 0)} %`,
        todo: 'Ask the dyno, and set it in the run’s record.',
      };
    case 'smoothing':
      return {
        what: 'The files were smoothed differently before they came here.',
        worth: null,
        todo: 'Export both raw. Peaks of unequal smoothing must not be compared.',
      };
    case 'inlet_air':
      return {
        what: `Inlet air at the start was ${formatQuantity(Math.abs(c.apart_K), 'temperatureRise', pack)} ${c.apart_K > 0 ? 'warmer' : 'cooler'} on the new side.`,
        worth: `about ${pct(c.worth_pct)} on the new side`,
        todo: 'Let it cool to the same start, or alternate the sides.',
      };
    case 'coolant':
      return {
        what: `Coolant was ${formatQuantity(Math.abs(c.apart_K), 'temperatureRise', pack)} ${c.apart_K > 0 ? 'warmer' : 'cooler'} on the new side.`,
        worth: null,
        todo: 'Start every pull from the same coolant temperature.',
      };
    case 'air_density':
      return {
        what: `The air was ${formatNumber(Math.abs(c.apart_pct), 1)} % ${c.apart_pct > 0 ? 'denser' : 'thinner'} on the new side.`,
        worth: c.worth_pct === 0 ? 'corrected for' : `about ${pct(c.worth_pct)}`,
        todo:
          c.worth_pct === 0
            ? 'The correction takes out most of it; closer days are better.'
            : 'Choose a correction, or run both sides in the same hour.',
      };
    case 'days_apart':
      return { what: `The runs are ${c.days} ${c.days === 1 ? 'day' : 'days'} apart.`, worth: null, todo: 'Run both sides on one day.' };
    case 'other_record':
      return {
        what: `${{ gear: 'Gear', fuel: 'Fuel', tune: 'Tune', measuredAt: 'Measured at' }[c.field]} differs: ${c.a} against ${c.b}.`,
        worth: null,
        todo: 'Change one thing at a time.',
      };
    case 'more_changed':
      return { what: `Something else was changed too: ${c.text}.`, worth: null, todo: 'The difference belongs to both changes together.' };
    case 'one_run_a_side':
      return { what: 'One run a side.', worth: null, todo: 'Repeat each side; two more runs say how far single runs scatter.' };
    case 'stock_once':
      return {
        what: 'Stock was run only once: whether the day drifted cannot be seen.',
        worth: null,
        todo: 'Go back to the old part once and see the old number again.',
      };
  }
}
