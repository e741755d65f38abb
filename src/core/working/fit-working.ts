import { measureOfFact, type Facts, type FitCheck } from '../fit/rule';
import { step, term, type Term, type Working, type WorkingStep } from './working';

/** A fact as a term; NaN where it is not known. */
function of(facts: Facts, symbol: string, label: string, name: string, from: Term['from'] = 'entered'): Term {
  const value = facts[name];
  return term(symbol, label, typeof value === 'number' ? value : NaN, measureOfFact(name) ?? 'ratio', from);
}

function stepsOf(id: string, f: Facts): WorkingStep[] {
  switch (id) {
    case 'holes':
    case 'clocking':
      return [
        step('holesOff', [], of(f, 'e', 'worst hole', 'pattern.off_m', 'computed')),
        step('boltPlay', [], of(f, 's', 'play of the bolt', 'pattern.play_m', 'computed')),
      ];
    case 'opening':
      return [
        step(
          'overhang',
          [of(f, 'D', 'bore, or the round bore of its area', 'bore_m'), of(f, 'd', 'narrower of manifold and gasket', 'opening_m')],
          of(f, 's', 'over the manifold bore', 'opening.over_m', 'computed'),
        ),
      ];
    case 'gasket':
      return [
        step(
          'overhang',
          [of(f, 'D', 'manifold bore', 'opening.manifold_m'), of(f, 'd', 'gasket bore', 'opening.gasket_m')],
          of(f, 's', 'into the air', 'opening.gasketOver_m', 'computed'),
        ),
      ];
    case 'taper':
      return [
        step(
          'taperAngle',
          [of(f, 'D', 'bore', 'bore_m'), of(f, 'd', 'opening', 'opening_m'), of(f, 't', 'plate', 'adapter.thickness_m')],
          of(f, String.raw`\theta`, 'half-angle', 'adapter.halfAngle_rad', 'computed'),
        ),
      ];
    case 'bolts':
      return [
        step(
          'boltShortest',
          [of(f, 'g', 'clamped', 'bolt.grip_m', 'computed')],
          of(f, String.raw`L_\min`, 'shortest', 'bolt.shortest_m', 'computed'),
        ),
        step(
          'boltLongest',
          [of(f, 'g', 'clamped', 'bolt.grip_m', 'computed')],
          of(f, String.raw`L_\max`, 'longest', 'bolt.longest_m', 'computed'),
        ),
      ];
    case 'studs':
      return [
        step(
          'studShortest',
          [of(f, 'g', 'clamped', 'bolt.grip_m', 'computed')],
          of(f, String.raw`L_\min`, 'standing out', 'bolt.shortest_m', 'computed'),
        ),
      ];
    case 'plate-bolts':
      return [
        step('boltShortest', [], of(f, String.raw`L_\min`, 'shortest', 'plateBolt.shortest_m', 'computed')),
        step('boltLongest', [], of(f, String.raw`L_\max`, 'longest', 'plateBolt.longest_m', 'computed')),
      ];
    case 'coupler':
      return [
        step(
          'couplerStretch',
          [of(f, 'd_s', 'spigot outside', 'coupler.spigot_m'), of(f, 'd_c', 'coupler inside', 'coupler_m')],
          of(f, String.raw`\varepsilon`, 'stretch', 'coupler.stretch_share', 'computed'),
        ),
      ];
    case 'adapter-holes':
      return [
        step(
          'betweenHoles',
          [of(f, 'a', 'closest centres', 'adapter.apart_m', 'computed')],
          of(f, 'x', 'metal between', 'adapter.between_m', 'computed'),
        ),
      ];
    case 'harness':
      return [
        step(
          'difference',
          [of(f, 'a', 'plug from the bore, stock', 'harness.stock_m'), of(f, 'b', 'on the throttle', 'harness.unit_m')],
          of(f, 'x', 'farther by', 'harness.needs_m', 'computed'),
        ),
      ];
    case 'length':
      return [
        step(
          'difference',
          [of(f, 'a', 'flange to spigot end, with the plate', 'length.unit_m'), of(f, 'b', 'on stock', 'length.stock_m')],
          of(f, 'x', 'the face moves', 'coupler.longer_m', 'computed'),
        ),
      ];
    case 'cover':
      return [
        step(
          'difference',
          [of(f, 'a', 'free over the bore', 'cover.above_m'), of(f, 'b', 'height of the throttle', 'cover.height_m')],
          of(f, 'x', 'left free', 'cover.left_m', 'computed'),
        ),
      ];
    default:
      return [];
  }
}

/** How the number beside a check comes about. */
export function ruleWorking({ rule }: FitCheck, facts: Facts): Working {
  return { title: rule.title, steps: stepsOf(rule.id, facts), notes: [`From: ${rule.source}.`] };
}
