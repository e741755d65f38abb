import { unitById, unitByWord, type Dimension, type Unit } from '../units/units';

/** What a pressure is counted from. */
export type PressureReference = 'absolute' | 'gauge' | 'vacuum';

export interface UnitWord {
  readonly unit: Unit;
  /** Unbroken by the word itself ("psig", "bar(a)", "kPa abs"); null: it does not say. */
  readonly reference: PressureReference | null;
}

const REFERENCES: readonly (readonly [RegExp, PressureReference])[] = [
  [/^(.*?)[\s_.(-]*(?:vacuum|vac)\)?$/i, 'vacuum'],
  [/^(.*?)[\s_.(-]*(?:absolute|abs)\.?\)?$/i, 'absolute'],
  [/^(.*?)[\s_.(-]*(?:gauge|gage|rel|relative)\.?\)?$/i, 'gauge'],
  [/^(psi|bar|kpa|mbar)[\s_-]*\(?a\)?$/i, 'absolute'],
  [/^(psi|bar|kpa|mbar)[\s_-]*\(?g\)?$/i, 'gauge'],
];

const VACUUM_OF: Readonly<Record<string, string>> = { inHg: 'inHgVac', kPa: 'kPaVac', mbar: 'mbarVac', mmHg: 'mmHgVac', psi: 'psiVac' };

/** The unit of vacuum that counts the same steps downwards; null where nobody gives a vacuum in it. */
export function vacuumUnit(unit: Unit): Unit | null {
  const id = VACUUM_OF[unit.id];
  return id === undefined ? null : unitById(id);
}

/** A unit as files write it, with what a pressure is counted from where the word says so; null: not a unit we know. */
export function readUnitWord(word: string, dimension?: Dimension): UnitWord | null {
  const text = word.trim();
  const plain = unitByWord(text, dimension);
  if (plain) return { unit: plain, reference: plain.factor < 0 ? 'vacuum' : null };
  for (const [pattern, reference] of REFERENCES) {
    const inner = pattern.exec(text)?.[1];
    const unit = inner ? unitByWord(inner, 'pressure') : null;
    if (unit && (dimension === undefined || dimension === 'pressure')) return { unit, reference };
  }
  // "kW, SAE" and "hp (uncorrected)": the unit, then words about it.
  const first = /^([^\s,;(]+)[\s,;(]/.exec(text)?.[1];
  const leading = first ? unitByWord(first, dimension) : null;
  return leading && leading.label !== '' ? { unit: leading, reference: null } : null;
}
