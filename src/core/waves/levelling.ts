import { GAMMA, nozzleFlow } from './gas';

/** Halvings until a flow is found: a millionth of the pressure between both. */
const HALVINGS = 24;

/**
 * Flow through an ideal nozzle between open air and a volume, kg/s inwards, such that both agree half a step on: a wide nozzle
 * on a small volume would else throw its pressure to and fro about the outside's. `other_kgps` flows in elsewhere.
 */
export function levelling(
  area_m2: number,
  at: { readonly pa: number; readonly Tin: number; readonly p: number; readonly T: number },
  mass_kg: number,
  other_kgps: number,
  dt: number,
): number {
  const stiff = (GAMMA * at.p * dt) / (2 * mass_kg);
  const alone = at.p + stiff * other_kgps;
  const flowAt = (p: number): number => (p <= at.pa ? nozzleFlow(area_m2, at.pa, at.Tin, p) : -nozzleFlow(area_m2, p, at.T, at.pa));
  // Between the pressure it would have by itself and the outside's the flow that is wanted crosses the one there is.
  let [lo, hi] = alone < at.pa ? [alone, at.pa] : [at.pa, alone];
  for (let i = 0; i < HALVINGS; i += 1) {
    const p = (lo + hi) / 2;
    if (flowAt(p) * stiff > p - alone) lo = p;
    else hi = p;
  }
  return flowAt((lo + hi) / 2);
}
