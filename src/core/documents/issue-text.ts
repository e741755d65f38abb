import { placeMeasure, placeWords } from './changes';
import { BOUND, type Issue, type Wanted } from './issue';
import type { MeasureName, UnitPack } from '../units/measures';
import { formatQuantity } from '../units/quantity';

/** What a figure may be, with the bound written as `say` writes it. */
export function wantedText(wanted: Wanted, say: (si: number) => string): string {
  if (!('bound' in wanted)) return wanted.kind === 'whole number' ? 'It takes a whole number.' : 'A figure is needed here.';
  return `It ${wanted.kind === 'least' || wanted.kind === 'more' ? 'has to' : 'may'} be ${BOUND[wanted.kind]} ${say(wanted.bound)}.`;
}

/** What is wrong with a figure, in the unit it is typed in; the schema's own words where it has some. */
export const issueText = (issue: { message: string; wanted?: Wanted | undefined }, measure: MeasureName, pack: UnitPack): string =>
  issue.wanted ? wantedText(issue.wanted, (si) => formatQuantity(si, measure, pack)) : issue.message;

/** Names of a place that are told: what it is called, and what it is a part of. */
const TOLD_NAMES = 2;

/** What is wrong and where, for a line that stands by itself: "throttle, clearance: It has to be at least 0.0 mm." */
export function issueLine(issue: Issue, pack: UnitPack): string {
  const keys = issue.path.split('.').filter((k) => k !== '');
  const named = keys.findLastIndex((k) => !/^\d+$/.test(k));
  const text = issueText(issue, placeMeasure(keys[named] ?? '') ?? 'count', pack);
  const place = keys.slice(Math.max(0, named + 1 - TOLD_NAMES)).map(placeWords);
  return place.length === 0 ? text : `${place.join(', ')}: ${text}`;
}
