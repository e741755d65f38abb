/** Which third of [lo, hi] each rpm lies in: [lo, lo+⅓), [lo+⅓, lo+⅔), [lo+⅔, hi]. */
export function thirdOf(rpm: number, lo: number, hi: number): 0 | 1 | 2 {
  const third = (hi - lo) / 3;
  if (rpm < lo + third) return 0;
  return rpm < lo + 2 * third ? 1 : 2;
}
