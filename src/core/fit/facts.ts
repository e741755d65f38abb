import type { JobDoc } from '../documents/job';
import type { UnitDoc } from '../documents/unit';
import { boltDiameter } from '../documents/kinds';
import { gasketOpening, manifoldFace, manifoldOpening, unitFace } from '../documents/faces';
import { isFailure } from '../failure';
import { SENSOR_WINDOW_V } from './sensor-window';
import { grossBore, openingFor } from '../documents/openings';
import { adapterTaper } from './adapter';
import { boltCheck, COARSE_PITCH_m } from './bolts';
import { flangeHoles, thinnestWall, type Flange } from '../shape/flange';
import { openingCheck } from './openings';
import { overlapOf } from './overlap';
import { boltPlay, matchPatterns } from './pattern-match';
import type { Fact, Facts } from './rule';

type FitJob = Pick<JobDoc, 'car' | 'fit' | 'pick' | 'marks'>;

/** A throttle's face as it is turned on this car; null: not measured. */
export function clockedFace(unit: UnitDoc, clock_rad: number): Flange | null {
  const face = unitFace(unit);
  return face && { ...face, clock_rad };
}

/** Centre-to-centre distance of the closest holes of two faces, m. */
function closestHoles(a: Flange, b: Flange): number {
  return Math.min(...flangeHoles(a).flatMap((p) => flangeHoles(b).map((q) => Math.hypot(p.x_m - q.x_m, p.y_m - q.y_m))));
}

/** Metal that must be left between two holes of an adapter plate, m. Ours. */
const BETWEEN_HOLES_m = 0.003;

/** Height of a nut, in diameters. ISO 4032. */
const STUD_NUT_d = 0.85;

const minus = (a: number | null, b: number | null): number | null => (a === null || b === null ? null : a - b);

/** The facts of the two faces: how holes meet as the throttle is turned, and as it could be. */
function patternFacts(doc: FitJob, unit: UnitDoc): Facts {
  const { mounting } = doc.fit;
  const base = manifoldFace(doc.car.stock);
  const face = clockedFace(unit, mounting.clock_rad);
  const none: Record<string, Fact> = {
    'pattern.unitHoles': face ? flangeHoles(face).length : null,
    'pattern.manifoldHoles': base ? flangeHoles(base).length : null,
  };
  const empty = {
    'pattern.off_m': null,
    'pattern.play_m': null,
    'pattern.turn_rad': null,
    'pattern.sameCount': null,
    'pattern.turns': false,
    'adapter.between_m': null,
  };
  if (!base || !face) return { ...none, ...empty };
  const as = matchPatterns(face, base, 'as it is');
  const best = matchPatterns(face, base, unit.flange!.clocking);
  const bolt = boltDiameter(doc.car.stock.flange!.bolt);
  const play_m = boltPlay(unit.flange!.hole_m, bolt);
  const apart_m = closestHoles(face, base);
  const between = apart_m - (boltDiameter(mounting.adapter?.bolt ?? 'M6') + bolt) / 2;
  return {
    ...none,
    'pattern.sameCount': as !== null,
    'pattern.off_m': as?.worst_m ?? null,
    'pattern.play_m': play_m,
    /** It does not sit as it is, and would if it were turned. */
    'pattern.turns': as !== null && best !== null && as.worst_m > play_m && best.worst_m <= play_m,
    'pattern.turn_rad': best?.turn_rad ?? null,
    'adapter.apart_m': apart_m,
    'adapter.between_m': between,
    'adapter.betweenWanted_m': BETWEEN_HOLES_m,
    'unit.wall_m': thinnestWall(face),
  };
}

/** Bolts: into the manifold through everything they clamp, and, on an adapter, the throttle's own into the plate. */
function boltFacts(doc: FitJob, unit: UnitDoc): Facts {
  const { mounting } = doc.fit;
  const manifold = doc.car.stock.flange;
  const out: Record<string, Fact> = {
    'bolt.grip_m': null,
    'bolt.length_m': null,
    'bolt.shortest_m': null,
    'bolt.longest_m': null,
    'bolt.offered_m': null,
    'bolt.room': null,
  };
  const { adapter } = mounting;
  const thickness = unit.flange?.thickness_m ?? null;
  if (manifold && (adapter || thickness !== null)) {
    const grip_m = (adapter ? adapter.thickness_m : thickness!) + mounting.gasket_m + mounting.extraGrip_m;
    const length_m = mounting.bolt_m ?? manifold.boltLength_m;
    const diameter_m = boltDiameter(manifold.bolt);
    if (manifold.fastening === 'stud') {
      // Through everything and the nut, and two threads out of it. Too long costs nothing but room.
      const shortest_m = grip_m + STUD_NUT_d * diameter_m + 2 * COARSE_PITCH_m[manifold.bolt]!;
      Object.assign(out, { 'bolt.grip_m': grip_m, 'bolt.length_m': length_m, 'bolt.shortest_m': shortest_m });
    }
    const check = boltCheck({
      diameter_m,
      pitch_m: COARSE_PITCH_m[manifold.bolt]!,
      grip_m,
      threadDepth_m: manifold.threadDepth_m,
      into: manifold.into,
      length_m,
    });
    if (!isFailure(check) && manifold.fastening === 'bolt')
      Object.assign(out, {
        'bolt.grip_m': grip_m,
        'bolt.length_m': length_m,
        'bolt.shortest_m': check.shortest_m,
        'bolt.longest_m': check.longest_m,
        'bolt.offered_m': check.offered_m,
        'bolt.room': check.offered_m !== null,
      });
  }
  out['bolt.size'] = manifold?.bolt ?? null;
  out['bolt.kind'] = manifold?.fastening ?? null;
  out['bolt.measured'] = manifold !== null;
  out['bolt.isStud'] = manifold?.fastening === 'stud';
  out['bolt.into'] = manifold?.into ?? null;
  if (adapter && thickness !== null) {
    const grip_m = thickness + adapter.gasket_m;
    const check = boltCheck({
      diameter_m: boltDiameter(adapter.bolt),
      pitch_m: COARSE_PITCH_m[adapter.bolt]!,
      grip_m,
      threadDepth_m: adapter.thickness_m,
      into: adapter.into,
      length_m: adapter.unitBolt_m,
    });
    if (!isFailure(check))
      Object.assign(out, {
        'plateBolt.length_m': adapter.unitBolt_m,
        'plateBolt.shortest_m': check.shortest_m,
        'plateBolt.longest_m': check.longest_m,
        'plateBolt.offered_m': check.offered_m,
        'plateBolt.room': check.offered_m !== null,
      });
  }
  return out;
}

/** Couplers and length: where the throttle stands in the pipe. */
function lengthFacts({ car, fit }: FitJob, { fittings: b }: UnitDoc): Facts {
  const { room } = car;
  const a = car.stock.fittings;
  const { adapter } = fit.mounting;
  // Where a throttle stands before a compressor or the coupler's size is the car's own.
  const stretch = room.coupler_m !== null && b.spigot_m !== null ? b.spigot_m / room.coupler_m - 1 : null;
  const adapterLength = adapter ? adapter.thickness_m + adapter.gasket_m : 0;
  const longer = minus(b.length_m === null ? null : b.length_m + adapterLength, a.length_m);
  return {
    coupler_m: room.coupler_m,
    'coupler.spigot_m': b.spigot_m,
    'coupler.stretch_share': stretch === null ? null : Math.max(0, stretch),
    'coupler.loose_m': room.coupler_m !== null && b.spigot_m !== null ? Math.max(0, room.coupler_m - b.spigot_m) : null,
    'coupler.longer_m': longer === null ? null : Math.abs(longer),
    'coupler.travel_m': room.couplerTravel_m,
    'length.stock_m': a.length_m,
    'length.unit_m': b.length_m === null ? null : b.length_m + adapterLength,
  };
}

/** The plug's reach against the harness. */
function harnessFacts({ car: { stock, room } }: FitJob, { fittings: b }: UnitDoc): Facts {
  const a = stock.fittings;
  const moved = b.plugReach_m === null || a.plugReach_m === null ? null : Math.max(0, a.plugReach_m - b.plugReach_m);
  return {
    'harness.needs_m': moved,
    'harness.slack_m': room.harnessSlack_m,
    'harness.stock_m': a.plugReach_m,
    'harness.unit_m': b.plugReach_m,
  };
}

/** Everything the rules ask about a throttle on a car. Lengths m, areas m², angles rad, volts. */
export function fitFacts(doc: FitJob, unit: UnitDoc): Facts {
  const { stock, room, controls } = doc.car;
  const { mounting } = doc.fit;
  const bore_m = grossBore(unit.throttle);
  const opening_m = Math.min(stock.manifoldOpening_m, stock.gasketOpening_m);
  const opening = openingCheck(unit.throttle, bore_m, opening_m, null);
  // On an adapter plate the manifold stays as it is.
  const toBe_m = doc.pick.opening === 'matched' && !mounting.adapter ? openingFor(doc, bore_m, 'matched') : stock.manifoldOpening_m;
  const gasketKnown = (doc.marks['stock.gasketOpening_m'] ?? 'assumed') !== 'assumed';
  const taper = mounting.adapter ? adapterTaper(bore_m, opening_m, mounting.adapter.thickness_m) : null;
  const a = stock.fittings;
  const b = unit.fittings;
  const year = room.year;
  return {
    'adapter.on': mounting.adapter !== null,
    bore_m: bore_m,
    opening_m: opening_m,
    'opening.gasket_m': stock.gasketOpening_m,
    'opening.manifold_m': stock.manifoldOpening_m,
    'opening.over_m': isFailure(opening) ? null : Math.max(0, opening.overhang_m),
    'opening.canBe_m': Math.min(unit.largestOpening_m ?? Infinity, stock.openingLimit_m ?? Infinity),
    'opening.toMatch': doc.pick.opening === 'matched',
    'opening.toBe_m': toBe_m,
    // A gasket that nobody measured is not known to leave the bore clear.
    'opening.gasketOver_m': gasketKnown ? Math.max(0, (Math.min(bore_m, toBe_m) - stock.gasketOpening_m) / 2) : null,
    'adapter.halfAngle_rad': taper && !isFailure(taper) ? taper.halfAngle_rad : null,
    'adapter.least_m': taper && !isFailure(taper) ? taper.leastLength_m : null,
    'adapter.good_m': taper && !isFailure(taper) ? taper.goodLength_m : null,
    'adapter.thickness_m': mounting.adapter?.thickness_m ?? null,
    ...patternFacts(doc, unit),
    ...boltFacts(doc, unit),
    'seal.kind': unit.flange?.seal ?? 'gasket',
    'seal.state': mounting.seal === 'not said' ? null : mounting.seal,
    'signal.car': controls.kind,
    'signal.unit': unit.controls,
    'plug.car': a.plug,
    'plug.unit': b.plug,
    'year.car': year,
    'year.from': b.fromYear ?? 0,
    'year.to': b.toYear ?? 9999,
    'year.asked': b.fromYear !== null || b.toYear !== null,
    ...harnessFacts(doc, unit),
    'sensor.closed_V': b.closed_V,
    'sensor.full_V': b.full_V,
    'sensor.low_V': SENSOR_WINDOW_V[0],
    'sensor.high_V': SENSOR_WINDOW_V[1],
    'idle.car': a.idleValve,
    'idle.unit': b.idleValve,
    'coolant.car': a.coolant,
    'coolant.unit': b.coolant,
    'ports.car': a.ports,
    'ports.unit': b.ports,
    ...lengthFacts(doc, unit),
    'cover.height_m': b.height_m,
    'cover.above_m': room.above_m,
    'cover.left_m': minus(room.above_m, b.height_m),
  };
}

/** Lip and ledge as the throttle lies on the opening, clocked and off-centre as it is; null: the geometry cannot be. */
export function lipOf(
  doc: Omit<FitJob, 'marks'>,
  unit: UnitDoc,
  clock_rad = doc.fit.mounting.clock_rad,
): { lip_m2: number; ledge_m2: number } | null {
  const { stock } = doc.car;
  const face = unitFace(unit);
  const shape = face?.opening ?? unitFace({ throttle: unit.throttle, flange: EMPTY_FLANGE })!.opening;
  const found = overlapOf(
    { opening: shape, clock_rad },
    { opening: stock.gasketOpening_m < stock.manifoldOpening_m ? gasketOpening(stock) : manifoldOpening(stock) },
  );
  return isFailure(found) ? null : found;
}
const EMPTY_FLANGE = {
  pattern: { kind: 'pair', span_m: 0.1, angle_rad: 0 },
  offset: { x_m: 0, y_m: 0 },
  plate: null,
  hole_m: 0.006,
  thickness_m: 0.01,
  seal: 'gasket',
  clocking: 'as it is',
} as const;
