import type { ShopRule } from '../src/core/documents/shop-rules';
import { jobDoc, type JobDoc } from '../src/core/documents/job';
import { unitDoc, type UnitDoc } from '../src/core/documents/unit';
import { presetJob } from '../src/core/job/presets';
import { aUnit } from './units';

const mm = (x: number): number => x / 1000;
/** A square of holes on a manifold, and a throttle to go on it. */
export const MANIFOLD_FLANGE = {
  pattern: { kind: 'rectangle' as const, width_m: mm(70), height_m: mm(70) },
  plate: { width_m: mm(92), height_m: mm(92) },
  boltLength_m: mm(25),
  stockThickness_m: mm(12),
};
export const UNIT_FLANGE = {
  pattern: { kind: 'rectangle' as const, width_m: mm(70), height_m: mm(70) },
  plate: { width_m: mm(92), height_m: mm(92) },
  hole_m: mm(6.6),
  thickness_m: mm(12),
};

/** A cable car whose manifold was measured. */
export function measuredJob(more: (doc: JobDoc) => JobDoc = (d) => d): JobDoc {
  const base = presetJob('Test car', 'straight six, 2.9 L');
  const { stock } = base.car;
  const doc = jobDoc.parse({
    ...base,
    car: { ...base.car, stock: { ...stock, gasketOpening_m: 0.06, flange: MANIFOLD_FLANGE } },
    marks: { 'stock.gasketOpening_m': 'measured' },
    fit: { ...base.fit, mounting: { ...base.fit.mounting, seal: 'new' } },
  });
  return jobDoc.parse(more(doc));
}

export const measuredUnit = (more: Partial<Record<keyof UnitDoc, unknown>> = {}): UnitDoc =>
  unitDoc.parse({ ...aUnit(66).doc, flange: UNIT_FLANGE, ...more });

/** A check of a shop's own, without a cure. */
export const SHOP_RULE: ShopRule = {
  id: 'own-1',
  group: 'clearance',
  title: 'Strut brace',
  fact: 'cover.left_m',
  is: '>=',
  than: 0.03,
  reason: 'It comes down.',
  cure: '',
};
