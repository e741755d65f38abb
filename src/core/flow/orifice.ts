/** Coefficients of the discharge equation of ISO 5167-2:2003 (Reader-Harris and Gallagher) for corner taps at a high Reynolds number. */
const BASE = 0.5961;
const SECOND = 0.0261;
const EIGHTH = -0.216;
/** Beyond this share of the pipe the equation does not hold. */
const LARGEST_BETA = 0.75;
/** Below it the equation's own limit is kept. */
const SMALLEST_BETA = 0.1;

/**
 * Discharge coefficient of a thin, sharp-edged plate by its bore's share β of the pipe's, at the high Reynolds numbers of an
 * intake at full load; held at its limits outside 0.1…0.75. ISO 5167-2, corner taps.
 */
export function plateDischarge(beta: number): number {
  const b = Math.min(LARGEST_BETA, Math.max(SMALLEST_BETA, beta));
  return BASE + SECOND * b ** 2 + EIGHTH * b ** 8;
}
