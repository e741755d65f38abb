import { openAirEnd, volumeEnd } from './ends';
import type { EngineFigures } from './figures';
import { C_P, C_V, GAMMA, R_GAS, soundSpeed } from './gas';
import type { LayOut } from './lay-out';
import { levelling } from './levelling';

const { min } = Math;
const PLENUM_COURANT = 0.4;

/** The volume that throttle and runners share, and its throttle: at the end of a pipe or straight to the outside. Source: docs/basis/waves.md §4. */
export class Plenum {
  /** Half a step on: pressure Pa, temperature K. */
  p = 0;
  T = 0;
  /** What flows at the speed of sound through every opening in so long is no more than a part of what is in it, s. */
  readonly longestStep_s: number;
  private mass = 0;
  private energy = 0;
  private rateM = 0;
  private rateU = 0;
  /** What the runners gave it in this step. */
  private runnersM = 0;
  private runnersU = 0;

  constructor(
    private readonly of: EngineFigures,
    private readonly lay: LayOut,
    private readonly volume_m3: number,
  ) {
    const { Tin, n, throttleArea_m2 } = of;
    const areas = lay.ducts.endArea_m2;
    const { runners, pipeLine } = lay;
    this.longestStep_s =
      (PLENUM_COURANT * volume_m3) /
      (soundSpeed(Tin) * (n * areas[2 * runners[0]!.from]! + (pipeLine ? min(throttleArea_m2, areas[2 * pipeLine.to + 1]!) : 0)));
  }

  start(): void {
    const { pa, Tin } = this.of;
    this.mass = (pa * this.volume_m3) / (R_GAS * Tin);
    this.energy = this.mass * C_V * Tin;
    this.rateM = this.rateU = 0;
  }

  /** Its state half a step on, by what flowed before. */
  halfOn(dt: number): void {
    const mass = this.mass + 0.5 * dt * this.rateM;
    const energy = this.energy + 0.5 * dt * this.rateU;
    this.p = ((GAMMA - 1) * energy) / this.volume_m3;
    this.T = energy / (mass * C_V);
    this.runnersM = this.runnersU = 0;
  }

  /** Solves the mouth of a runner that opens into it, an end of the ducts. */
  mouth(end: number): void {
    const up = this.lay.ducts.ends[end]!;
    const area = this.lay.ducts.endArea_m2[end]!;
    volumeEnd(up, area, this.p, this.T, area * this.lay.mouth.inwardCd, area);
    this.runnersM += up.massFlow;
    this.runnersU += up.energyFlow;
  }

  /** Solves the throttle, and its pipe's mouth, and carries the volume a step on; what passes the throttle inwards, kg/s. */
  step(dt: number): number {
    const { pa, Tin, throttleArea_m2 } = this.of;
    const { pipeLine, pipeMouth, ducts } = this.lay;
    const { ends, endArea_m2: areas } = ducts;
    let throttle: number;
    let energy: number;
    if (pipeLine) {
      const up = 2 * pipeLine.from;
      const down = 2 * pipeLine.to + 1;
      openAirEnd(ends[up]!, areas[up]!, pa, Tin, pipeMouth!.K);
      const area = min(throttleArea_m2, areas[down]!);
      volumeEnd(ends[down]!, areas[down]!, this.p, this.T, area, area);
      throttle = ends[down]!.massFlow;
      energy = ends[down]!.energyFlow;
    } else {
      const p = ((GAMMA - 1) * this.energy) / this.volume_m3;
      throttle = levelling(throttleArea_m2, { pa, Tin, p, T: this.T }, this.mass, this.runnersM, dt);
      energy = throttle * C_P * (throttle >= 0 ? Tin : this.T);
    }
    this.rateM = throttle + this.runnersM;
    this.rateU = energy + this.runnersU;
    this.mass += this.rateM * dt;
    this.energy += this.rateU * dt;
    return throttle;
  }
}
