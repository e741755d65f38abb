import { readTable } from './input';
import type { LayOut } from './lay-out';
import { ROWS, type WaveResult } from './result';
import { CYCLE_rad } from './valves';

/** What a cycle gave: sums over its time, curves over its angle and the picture of the waves in the first runner. The next one writes over it. */
export class CycleRecord {
  /** What passed the throttle, kg, its largest flow, kg/s, and what came back, kg. */
  throttle_kg = 0;
  private peak_kgps = 0;
  private reversed_kg = 0;
  /** ∫p dt of the plenum, Pa·s, over so many seconds. */
  private plenum_Pas = 0;
  private time_s = 0;
  private row = 0;
  private readonly curves: WaveResult['curves'];
  private readonly p_Pa: Float32Array;
  private readonly cells: number;
  private readonly firstCell: number;
  private readonly mouthEnd: number;
  private readonly valveEnd: number;

  constructor(
    private readonly lay: LayOut,
    inletTable: Float64Array,
  ) {
    const { ducts, runners } = lay;
    const { from, to } = runners[0]!;
    this.firstCell = ducts.first[from]!;
    this.cells = ducts.first[to + 1]! - this.firstCell;
    this.mouthEnd = 2 * from;
    this.valveEnd = 2 * to + 1;
    const curve = (): Float64Array => new Float64Array(ROWS + 1);
    this.curves = {
      valve_Pa: curve(),
      mouth_Pa: curve(),
      plenum_Pa: curve(),
      throttle_kgps: curve(),
      inletArea_m2: Float64Array.from({ length: ROWS + 1 }, (_, i) => readTable(inletTable, (i / ROWS) * CYCLE_rad)),
    };
    this.p_Pa = new Float32Array((ROWS + 1) * this.cells);
  }

  begin(): void {
    this.throttle_kg = this.peak_kgps = this.reversed_kg = this.plenum_Pas = this.time_s = this.row = 0;
  }

  /** A step of `dt` s whose middle is at the crank angle `half`, as the ducts are after it. */
  add(half: number, dt: number, throttle: number, plenum_Pa: number): void {
    this.throttle_kg += throttle * dt;
    if (throttle > this.peak_kgps) this.peak_kgps = throttle;
    if (throttle < 0) this.reversed_kg -= throttle * dt;
    this.plenum_Pas += plenum_Pa * dt;
    this.time_s += dt;
    const { ends, p } = this.lay.ducts;
    // Rows of the picture that fall into this step.
    while (this.row < ROWS && (this.row / ROWS) * CYCLE_rad <= half) {
      const { row, cells } = this;
      this.curves.valve_Pa[row] = ends[this.valveEnd]!.pressure;
      this.curves.mouth_Pa[row] = ends[this.mouthEnd]!.pressure;
      this.curves.plenum_Pa[row] = plenum_Pa;
      this.curves.throttle_kgps[row] = throttle;
      for (let i = 0; i < cells; i += 1) this.p_Pa[row * cells + i] = p[this.firstCell + i]!;
      this.row += 1;
    }
  }

  /** The cycle closes on itself. */
  end(): void {
    const { valve_Pa, mouth_Pa, plenum_Pa, throttle_kgps } = this.curves;
    for (; this.row <= ROWS; this.row += 1) {
      const from = this.row === ROWS ? 0 : this.row - 1;
      for (const c of [valve_Pa, mouth_Pa, plenum_Pa, throttle_kgps]) c[this.row] = c[from]!;
      this.p_Pa.copyWithin(this.row * this.cells, from * this.cells, (from + 1) * this.cells);
    }
  }

  /** What is told of it; the plenum's mean pressure is the outside's where there is none. */
  told(
    noPlenum_Pa: number | null,
  ): Pick<WaveResult, 'plenum_Pa' | 'peakToMean' | 'peakFlow_kgps' | 'reversedShare' | 'curves' | 'picture'> {
    return {
      plenum_Pa: noPlenum_Pa ?? this.plenum_Pas / this.time_s,
      peakToMean: this.peak_kgps / (this.throttle_kg / this.time_s),
      peakFlow_kgps: this.peak_kgps,
      reversedShare: this.reversed_kg / (this.throttle_kg + this.reversed_kg),
      curves: this.curves,
      picture: { places_m: this.places(), p_Pa: this.p_Pa },
    };
  }

  /** Where the cells of the first runner are, m from its mouth. */
  private places(): Float64Array {
    const { ducts, runners, cut, before } = this.lay;
    const places_m = new Float64Array(this.cells);
    let at = 0;
    let along = -before;
    for (let d = runners[0]!.from; d <= runners[0]!.to; d += 1) {
      const own = ducts.places(d);
      places_m.set(
        own.map((x) => x + along),
        at,
      );
      at += own.length;
      along += cut[d]!.cells * cut[d]!.dx_m;
    }
    return places_m;
  }
}
