import { squareStroke } from '../engine/power';
import { valveOf, volumeTable, ROD_RATIO, type Valve, type WaveEngine } from './input';
import { CYCLE_rad } from './valves';

const USUAL_BACK_Pa = 15_000;
const EXHAUST_REVERSE_K = 900;

/** An engine as it is reckoned: what is not told is as usual. SI; angles rad from a cylinder's own firing top dead centre. */
export interface EngineFigures {
  /** Air outside, Pa and K, and its temperature where it is drawn in, K. */
  readonly pa: number;
  readonly Ta: number;
  readonly Tin: number;
  /** Cylinders that are reckoned: without a plenum they share only open air, and one stands for all. */
  readonly n: number;
  readonly displacement_m3: number;
  readonly swept_m3: number;
  readonly bore_m: number;
  readonly inlet: Valve;
  readonly exhaust: Valve;
  /** Cylinder volume over a turn, m³, as a table. */
  readonly volumes: Float64Array;
  /** When the exhaust opens and the inlet closes. Between the two a cylinder takes part in the gas exchange. */
  readonly opens: number;
  readonly closes: number;
  /** How far each cylinder runs behind the first, whose own angle is the crank's. */
  readonly behind: Float64Array;
  /** Crank angles at which some cylinder's exhaust opens or inlet closes, and the cycle's end: steps end on them. */
  readonly events: readonly number[];
  /** Heat passed by the walls, W/(m²·K), and their temperature; temperature of the gas as the exhaust opens, K. */
  readonly hw: number;
  readonly wall_K: number;
  readonly blown_K: number;
  readonly maxRpm: number;
  /** Back pressure at the largest speed, Pa, and the temperature of what comes back from the exhaust, K. */
  readonly back_Pa: number;
  readonly reverse_K: number;
  /** `null`: there is none. */
  readonly plenum_m3: number | null;
  readonly throttleArea_m2: number;
  /** Effective area at the far end of an exhaust primary, m²; `null`: its own. */
  readonly primary: { readonly bore_m: number; readonly endArea_m2: number | null } | null;
}

/** Crank angles at which steps end, rising, the cycle's end last. */
function eventsOf(behind: Float64Array, opens: number, closes: number): number[] {
  const all = Array.from(behind, (later) => [opens, closes].map((e) => (e + later) % CYCLE_rad)).flat();
  return [...new Set([...all, CYCLE_rad])].map((e) => (e < 0 ? e + CYCLE_rad : e)).sort((a, b) => a - b);
}

/** What an engine is reckoned with. Source: docs/basis/waves.md §5, §6. */
export function engineFigures(input: WaveEngine): EngineFigures {
  const { displacement_m3, cylinders, compressionRatio } = input.engine;
  const swept_m3 = displacement_m3 / cylinders;
  const bore_m = input.engine.bore_m ?? squareStroke(swept_m3, 1);
  const Ta = input.ambient?.T_K ?? 298.15;
  const n = input.plenum ? cylinders : 1;
  const inlet = valveOf(input.inletValve, bore_m, 'inlet');
  const exhaust = valveOf(input.exhaustValve, bore_m, 'exhaust');
  const opens = exhaust.lobe.centre_rad - exhaust.lobe.duration_rad / 2;
  const closes = inlet.lobe.centre_rad + inlet.lobe.duration_rad / 2;
  // Each cylinder's place in the firing order: the k-th to fire runs 4π·k/n behind the first.
  const order = input.engine.firingOrder ?? Array.from({ length: n }, (_, k) => k + 1);
  const place = (k: number): number => (n === 1 ? 0 : order.indexOf(k + 1));
  const behind = Float64Array.from({ length: n }, (_, k) => (CYCLE_rad * ((place(k) - place(0) + n) % n)) / n);
  const primary = input.exhaust?.primary ?? null;
  return {
    pa: input.ambient?.p_Pa ?? 101_325,
    Ta,
    Tin: input.inletT_K ?? Ta,
    n,
    displacement_m3,
    swept_m3,
    bore_m,
    inlet,
    exhaust,
    volumes: volumeTable({ swept_m3, compressionRatio, lambda: input.engine.lambda ?? ROD_RATIO }),
    opens,
    closes,
    behind,
    events: eventsOf(behind, opens, closes),
    hw: input.engine.hw ?? 250,
    wall_K: input.engine.wall_K ?? 430,
    blown_K: input.engine.exhaust_K ?? 1600,
    maxRpm: input.engine.maxRpm_rpm ?? 7000,
    back_Pa: input.exhaust?.back_Pa ?? USUAL_BACK_Pa,
    reverse_K: input.exhaust?.reverseT_K ?? EXHAUST_REVERSE_K,
    plenum_m3: input.plenum?.volume_m3 ?? null,
    throttleArea_m2: input.throttle?.effectiveArea_m2 ?? Infinity,
    primary: primary && { bore_m: primary.bore_m, endArea_m2: primary.endArea_m2 ?? null },
  };
}
