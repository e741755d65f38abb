/** Power over engine speed. */
export interface PowerRun {
  readonly rpm: ArrayLike<number>;
  readonly power_W: ArrayLike<number>;
}

/** A run as a comparison takes it: power over rpm, the visit and the stay it belongs to, and the smoothing its file already carries. */
export interface SideRun extends PowerRun {
  readonly visit?: string | undefined;
  readonly carriedSmoothing_rpm?: number | null | undefined;
  /** Place in the order the runs were driven; runs without one follow A first, as given. */
  readonly order?: number | undefined;
  /** The car was strapped down anew, or the part taken off and on, before this run. */
  readonly newStay?: boolean | undefined;
  /** Inlet air (else coolant) at the start, K. */
  readonly start_K?: number | undefined;
  /** Standard error of the whole curve where it was read off a picture, %. */
  readonly readingError_pct?: number | undefined;
}
