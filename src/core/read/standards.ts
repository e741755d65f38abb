import type { RunDoc } from '../documents/run';

/** By their numbers before their makers' names: there is an older standard of the same maker, which gives more. */
const STANDARDS: readonly (readonly [RegExp, RunDoc['carried']])[] = [
  [/j ?1349/i, 'SAE J1349'],
  [/j ?607|\bstd\b/i, 'STD'],
  [/din ?70020|\bdin\b/i, 'DIN 70020'],
  [/iso ?1585|\biso\b/i, 'ISO 1585'],
  [/\bsae\b(?! ?j ?\d)/i, 'SAE J1349'],
];

/** The standard that a text says figures are corrected by; null where it names none that is known. */
export const standardIn = (text: string): RunDoc['carried'] | null => STANDARDS.find(([p]) => p.test(text))?.[1] ?? null;
