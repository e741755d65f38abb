import { BOUND, type Wanted } from './issue';
import type { MeasureName, UnitPack } from '../units/measures';
import { formatQuantity } from '../units/quantity';

/** What a figure may be, with the bound written as `say` writes it. */
export function wantedText(wanted: Wanted, say: (si: number) => string): string {
  if (!('bound' in wanted)) return wanted.kind === 'whole number' ? 'It takes a whole number.' : 'A figure is needed here.';
  return `It may be ${BOUND[wanted.kind]} ${say(wanted.bound)}.`;
}

/** What is wrong with a figure, in the unit it is typed in; the schema's own words where it has some. */
export const issueText = (issue: { message: string; wanted?: Wanted | undefined }, measure: MeasureName, pack: UnitPack): string =>
  issue.wanted ? wantedText(issue.wanted, (si) => formatQuantity(si, measure, pack)) : issue.message;
