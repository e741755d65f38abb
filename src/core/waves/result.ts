/** Rows of the picture of waves and of the curves over the cycle: one every two degrees. */
export const ROWS = 360;

export interface WaveOptions {
  /** Largest length of a cell, m. */
  readonly cell_m?: number | undefined;
  readonly maxCycles?: number | undefined;
  /** Asked between cycles: true ends the work, the result is then not settled. */
  readonly cancelled?: (() => boolean) | undefined;
}

/** One engine speed, of the last cycle. Curves have ROWS + 1 entries over the cycle of cylinder 1, 0 to 4π. */
export interface WaveResult {
  readonly rpm: number;
  readonly settled: boolean;
  readonly cycles: number;
  /** Volumetric efficiency on the ambient air, mean over the cylinders, and each cylinder's. */
  readonly W: number;
  readonly Wcylinder: readonly number[];
  /** Share of what is trapped that is no fresh charge. */
  readonly residual: number;
  /** ∮p dV of one cylinder from bottom to bottom over the gas exchange, J; negative: the engine pays. */
  readonly pumpingWork_J: number;
  /** Time mean in the plenum, Pa; ambient where there is none. */
  readonly plenum_Pa: number;
  /** Largest over mean flow at the throttle, or at the mouth where there is no plenum. */
  readonly peakToMean: number;
  readonly peakFlow_kgps: number;
  /** Share of what passes the throttle forwards that comes back. */
  readonly reversedShare: number;
  readonly curves: {
    readonly valve_Pa: Float64Array;
    readonly mouth_Pa: Float64Array;
    readonly plenum_Pa: Float64Array;
    readonly throttle_kgps: Float64Array;
    readonly inletArea_m2: Float64Array;
  };
  /** Pressure along cylinder 1's runner over its cycle: `places` from its mouth (m) by ROWS + 1 rows, row after row. */
  readonly picture: { readonly places_m: Float64Array; readonly p_Pa: Float32Array };
}

/** What an engine gives whose gas left what a gas can be: nothing, and not settled. */
export const lost = (rpm: number, cycles: number): WaveResult => ({
  rpm,
  settled: false,
  cycles,
  W: NaN,
  Wcylinder: [],
  residual: NaN,
  pumpingWork_J: NaN,
  plenum_Pa: NaN,
  peakToMean: NaN,
  peakFlow_kgps: NaN,
  reversedShare: NaN,
  curves: { valve_Pa: NOTHING, mouth_Pa: NOTHING, plenum_Pa: NOTHING, throttle_kgps: NOTHING, inletArea_m2: NOTHING },
  picture: { places_m: NOTHING, p_Pa: new Float32Array() },
});
const NOTHING = new Float64Array();
