import type { Ladder } from '../flow/ladder';
import type { PathPart } from '../flow/path';
import { R_GAS } from '../waves/gas';
import type { PipeInput } from '../waves/input';
import type { Segment, StandingLoss } from '../waves/shape';

/** A duct shorter than this is not parted from its neighbour. */
const SHORT_m = 0.15;

const circle = (bore_m: number): number => (Math.PI / 4) * bore_m ** 2;

/** The pipe from open air to the throttle: lengths and bores of its pipes, everything else as losses standing in it. */
export function pipeOf(parts: readonly PathPart[], ladder: Ladder, flow_kgps: number, T_K: number): PipeInput | null {
  const segments: Segment[] = [];
  const waiting: { at_m: number; loss_Pa: number; p_Pa: number }[] = [];
  let x = 0;
  let bends = 0;
  let edgeRadius_m = 0;
  const lossOf = (i: number): { loss: number; p: number } => {
    const rows = ladder.part.map((part, row) => ({ part, row })).filter(({ part, row }) => part === i && !ladder.junction[row]);
    return { loss: rows.reduce((sum, { row }) => sum + ladder.dp_Pa[row]!, 0), p: ladder.running_Pa[rows[0]?.row ?? 0] ?? 101_325 };
  };
  parts.forEach((part, i) => {
    if (part.type === 'openEnd') edgeRadius_m = part.edgeRadius_m ?? 0;
    else if (part.type === 'pipe' && (part.count ?? 1) === 1 && part.length_m > 0) {
      segments.push({ length_m: part.length_m, inBore_m: part.bore_m, outBore_m: part.bore_m });
      const { loss, p } = lossOf(i);
      const q = (flow_kgps / circle(part.bore_m)) ** 2 / (2 * (p / (R_GAS * T_K)));
      // Friction is the model's own; what its bends cost stands over it.
      bends += part.bends && part.bends.length > 0 ? Math.max(0, loss / q - (0.02 * part.length_m) / part.bore_m) : 0;
      x += part.length_m;
    } else if (part.type === 'taper' && part.inBore_m !== part.outBore_m) {
      const length = Math.abs(part.outBore_m - part.inBore_m) / 2 / Math.tan(Math.max(part.halfAngle_rad, 0.02));
      segments.push({ length_m: length, inBore_m: part.inBore_m, outBore_m: part.outBore_m });
      x += length;
    } else {
      const { loss, p } = lossOf(i);
      if (loss > 0) waiting.push({ at_m: x, loss_Pa: loss, p_Pa: p });
    }
  });
  if (segments.length === 0) return null;
  // A short piece between steps would be a duct of its own, whose small cells slow down all others: it meets its neighbour
  // without one.
  let part_m = segments[0]!.length_m;
  for (let i = 1; i < segments.length; i += 1) {
    const s = segments[i]!;
    const before = segments[i - 1]!;
    if (s.length_m < SHORT_m || part_m < SHORT_m) {
      segments[i] = { ...s, inBore_m: before.outBore_m };
      part_m += s.length_m;
    } else part_m = s.length_m;
  }
  const boreAt = (at_m: number): number => {
    let from = 0;
    for (const s of segments) {
      from += s.length_m;
      if (at_m < from) return s.inBore_m;
    }
    return segments.at(-1)!.outBore_m;
  };
  const losses = waiting.map(({ at_m, loss_Pa, p_Pa }): StandingLoss => {
    const q = (flow_kgps / circle(boreAt(at_m))) ** 2 / (2 * (p_Pa / (R_GAS * T_K)));
    return { at_m, K: loss_Pa / q };
  });
  return { segments, losses, bendsK: bends, mouth: { edgeRadius_m } };
}
