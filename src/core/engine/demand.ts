import { failure, type Failure } from '../failure';

/** Swept volume rate of a four-stroke, m³/s: V_d·N/120. */
export function sweptRate(displacement_m3: number, rpm: number): number {
  return (displacement_m3 * rpm) / 120;
}

export interface Demand {
  readonly massFlow_kgps: number;
  /** Volume at the inlet's own density, m³/s. */
  readonly volumeFlow_m3ps: number;
}

/** Displacement school: ṁ = η_a·V̇·ρ, η_a referred to ambient air. Airflow basis §3. */
export function demandByDisplacement(
  displacement_m3: number,
  rpm: number,
  ve: number,
  density_kgpm3: number,
): (Demand & { sweptRate_m3ps: number }) | Failure {
  if (!(displacement_m3 > 0) || !(rpm >= 0) || !(ve > 0) || !(density_kgpm3 > 0)) return failure('bad_input');
  const sweptRate_m3ps = sweptRate(displacement_m3, rpm);
  const massFlow_kgps = ve * sweptRate_m3ps * density_kgpm3;
  return { sweptRate_m3ps, massFlow_kgps, volumeFlow_m3ps: massFlow_kgps / density_kgpm3 };
}

export type Aspiration = 'na' | 'boosted-intercooled' | 'boosted-belt';

/** Brake specific fuel consumption, kg/J, and air–fuel ratio that each kind of engine is assumed to run. Airflow basis §3. */
export const FUELLING: Readonly<Record<Aspiration, { bsfc_kgpJ: number; afr: number }>> = {
  na: { bsfc_kgpJ: 0.3 / 3.6e6, afr: 12.8 },
  'boosted-intercooled': { bsfc_kgpJ: 0.34 / 3.6e6, afr: 11.8 },
  'boosted-belt': { bsfc_kgpJ: 0.37 / 3.6e6, afr: 11.8 },
};

/** Power school: ṁ = P_b·BSFC·AFR; wheel power is first brought to the crank. Airflow basis §3. */
export function demandByPower(input: {
  readonly power_W: number;
  readonly at?: 'crank' | 'wheels' | undefined;
  readonly drivelineLoss?: number | undefined;
  readonly aspiration?: Aspiration | undefined;
  readonly bsfc_kgpJ?: number | undefined;
  readonly afr?: number | undefined;
  readonly density_kgpm3: number;
}): (Demand & { crankPower_W: number }) | Failure {
  const loss = input.drivelineLoss ?? 0;
  if (!(input.power_W > 0) || !(loss >= 0 && loss < 1) || !(input.density_kgpm3 > 0)) return failure('bad_input');
  const fuelling = FUELLING[input.aspiration ?? 'na'];
  const crankPower_W = input.at === 'wheels' ? input.power_W / (1 - loss) : input.power_W;
  const massFlow_kgps = crankPower_W * (input.bsfc_kgpJ ?? fuelling.bsfc_kgpJ) * (input.afr ?? fuelling.afr);
  return { crankPower_W, massFlow_kgps, volumeFlow_m3ps: massFlow_kgps / input.density_kgpm3 };
}

/** Meter school, from logged air mass per cylinder event, kg: ṁ = m·n·N/120. Airflow basis §3. */
export function demandByCylinderAir(cylinderAir_kg: number, cylinders: number, rpm: number): number {
  return (cylinderAir_kg * cylinders * rpm) / 120;
}

/** Ambient-referenced volumetric efficiency from a measured air mass flow. Airflow basis §3. */
export function veFromMassFlow(massFlow_kgps: number, displacement_m3: number, rpm: number, density_kgpm3: number): number | Failure {
  const swept = sweptRate(displacement_m3, rpm);
  if (!(swept > 0) || !(density_kgpm3 > 0) || !(massFlow_kgps >= 0)) return failure('bad_input');
  return massFlow_kgps / (swept * density_kgpm3);
}
