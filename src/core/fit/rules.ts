import { TAPER_LIMIT_rad } from '../flow/losses';
import type { FitRule } from './rule';

/** Stretch a silicone coupler bears under its clamp without creeping off again. Ours; the coupler’s maker knows better. */
const STRETCH_SHARE = 0.05;
/** Room wanted over the highest part of a throttle: engines rock on their mounts, m. Ours. */
const OVER_m = 0.01;
/** Coupler this much wider than its spigot still closes under a clamp, m. Ours. */
const LOOSE_m = 0.001;

const PRACTICE = 'shop practice';
const OURS = 'shop practice; the figure is ours';

/** What decides whether a throttle goes on a car, in the order a person looks. A shop adds its own to these. */
export const FIT_RULES: readonly FitRule[] = [
  {
    id: 'holes',
    group: 'flange',
    title: 'Hole pattern',
    when: {
      all: [
        { fact: 'adapter.on', is: '=', than: false },
        { fact: 'pattern.turns', is: '=', than: false },
      ],
    },
    fits: {
      all: [
        { fact: 'pattern.sameCount', is: '=', than: true },
        { fact: 'pattern.off_m', is: '<=', than: { fact: 'pattern.play_m' } },
      ],
    },
    cure: 'Adapter plate: {pattern.unitHoles} holes for the throttle, {pattern.manifoldHoles} for the manifold',
    number: 'pattern.off_m',
    why: {
      fits: 'Every hole meets its own within the {pattern.play_m} a bolt can move.',
      needs: 'The holes do not meet: {pattern.off_m} off at the worst, where a bolt can move {pattern.play_m}.',
      ask: 'Measure the holes of the throttle and of the manifold.',
    },
    source: PRACTICE,
  },
  {
    id: 'clocking',
    group: 'flange',
    title: 'Clocking',
    when: {
      all: [
        { fact: 'adapter.on', is: '=', than: false },
        { fact: 'pattern.turns', is: '=', than: true },
      ],
    },
    fits: { fact: 'pattern.off_m', is: '<=', than: { fact: 'pattern.play_m' } },
    cure: 'Turn the throttle by {pattern.turn_rad}',
    why: {
      fits: 'It is turned as it must be.',
      needs: 'Turned by {pattern.turn_rad} every hole meets its own. Look where the motor housing and the plug then are.',
      ask: 'Measure the holes.',
    },
    source: PRACTICE,
  },
  {
    id: 'adapter-holes',
    group: 'flange',
    title: 'Holes of the adapter plate',
    when: { fact: 'adapter.on', is: '=', than: true },
    fits: { fact: 'adapter.between_m', is: '>=', than: { fact: 'adapter.betweenWanted_m' } },
    cure: 'Countersunk bolts under the throttle’s flange, or the throttle turned so that its holes stand clear of the manifold’s',
    number: 'adapter.between_m',
    why: {
      fits: '{adapter.between_m} of metal stand between the throttle’s threads and the manifold’s bolts.',
      needs:
        'Only {adapter.between_m} stand between the throttle’s threads and the manifold’s bolts; {adapter.betweenWanted_m} are wanted.',
      ask: 'Measure the holes of the throttle and of the manifold.',
    },
    source: OURS,
  },
  {
    id: 'opening',
    group: 'openings',
    title: 'Bore against manifold',
    when: { fact: 'adapter.on', is: '=', than: false },
    fits: { fact: 'opening.over_m', is: '<=', than: 0.00025 },
    curable: { fact: 'bore_m', is: '<=', than: { fact: 'opening.canBe_m' } },
    cure: 'The manifold opened to {bore_m} and blended, with a gasket to match; or an adapter plate with a taper',
    number: 'opening.over_m',
    why: {
      fits: 'Nothing of the manifold stands into the bore.',
      needs: 'Manifold {opening_m}, bore {bore_m}: a step of {opening.over_m} a side faces the flow.',
      not: 'Manifold {opening_m}, bore {bore_m}, and neither flange nor manifold allows boring it to that.',
      ask: 'Measure the manifold’s bore and the gasket’s.',
    },
    source: PRACTICE,
  },
  {
    id: 'gasket',
    group: 'openings',
    title: 'Gasket bore',
    fits: { fact: 'opening.gasketOver_m', is: '<=', than: 0.00025 },
    cure: 'Gasket cut to {opening.toBe_m}',
    number: 'opening.gasketOver_m',
    why: {
      fits: 'The gasket’s {opening.gasket_m} leave the {opening.toBe_m} that it is to lie on clear.',
      needs: 'The gasket’s {opening.gasket_m} on a bore of {opening.toBe_m}: {opening.gasketOver_m} a side stand in the flow.',
      ask: 'Measure the gasket’s bore: nobody has said what it is.',
    },
    source: PRACTICE,
  },
  {
    id: 'taper',
    group: 'openings',
    title: 'Taper of the adapter',
    when: { fact: 'adapter.on', is: '=', than: true },
    fits: { fact: 'adapter.halfAngle_rad', is: '<=', than: TAPER_LIMIT_rad },
    cure: 'A plate at least {adapter.least_m} thick; {adapter.good_m} for a smooth taper',
    number: 'adapter.halfAngle_rad',
    why: {
      fits: 'From {bore_m} to {opening_m} over {adapter.thickness_m} is {adapter.halfAngle_rad} to the axis: the air follows it.',
      needs: 'From {bore_m} to {opening_m} over {adapter.thickness_m} is {adapter.halfAngle_rad} to the axis: a step to the air.',
      ask: 'Enter the plate’s thickness.',
    },
    source: 'taper losses of the flow model',
  },
  {
    id: 'bolts',
    group: 'fasteners',
    title: 'Bolts into the manifold',
    when: {
      any: [
        { fact: 'bolt.kind', is: '=', than: 'bolt' },
        { fact: 'bolt.measured', is: '=', than: false },
      ],
    },
    fits: {
      all: [
        { fact: 'bolt.length_m', is: '>=', than: { fact: 'bolt.shortest_m' } },
        { fact: 'bolt.length_m', is: '<=', than: { fact: 'bolt.longest_m' } },
      ],
    },
    curable: { fact: 'bolt.room', is: '=', than: true },
    cure: '{pattern.manifoldHoles} × {bolt.size} × {bolt.offered_m} {bolt.kind}s',
    number: 'bolt.length_m',
    why: {
      fits: '{bolt.length_m} through {bolt.grip_m} holds well in {bolt.into} and does not bottom.',
      needs:
        '{bolt.length_m} through {bolt.grip_m}: between {bolt.shortest_m} (to hold in {bolt.into}) and {bolt.longest_m} (before it bottoms) is wanted.',
      not: 'No length sold holds in this thread without bottoming: {bolt.shortest_m} is needed, {bolt.longest_m} is the end of the hole. A deeper thread, or studs.',
      ask: 'Measure the flange’s thickness, the thread’s depth and the bolts at hand.',
    },
    source: 'engagement 1.5 diameters in aluminium, 2 in plastic inserts; ISO 4762 lengths',
  },
  {
    id: 'studs',
    group: 'fasteners',
    title: 'Studs of the manifold',
    when: { fact: 'bolt.isStud', is: '=', than: true },
    fits: { fact: 'bolt.length_m', is: '>=', than: { fact: 'bolt.shortest_m' } },
    cure: '{pattern.manifoldHoles} × {bolt.size} studs that stand out {bolt.shortest_m} at least',
    number: 'bolt.length_m',
    why: {
      fits: '{bolt.length_m} stand out; {bolt.shortest_m} go through {bolt.grip_m} and the nut.',
      needs: 'The studs stand out {bolt.length_m}; through {bolt.grip_m} and a nut with two threads to spare {bolt.shortest_m} are wanted.',
      ask: 'Measure the flange’s thickness and how far the studs stand out.',
    },
    source: 'ISO 4032 nut and two threads',
  },
  {
    id: 'plate-bolts',
    group: 'fasteners',
    title: 'Bolts of the throttle into the plate',
    when: { fact: 'adapter.on', is: '=', than: true },
    fits: {
      all: [
        { fact: 'plateBolt.length_m', is: '>=', than: { fact: 'plateBolt.shortest_m' } },
        { fact: 'plateBolt.length_m', is: '<=', than: { fact: 'plateBolt.longest_m' } },
      ],
    },
    curable: { fact: 'plateBolt.room', is: '=', than: true },
    cure: '{pattern.unitHoles} bolts × {plateBolt.offered_m} for the throttle into the plate',
    number: 'plateBolt.length_m',
    why: {
      fits: '{plateBolt.length_m} holds in the plate and does not come out behind.',
      needs: 'Between {plateBolt.shortest_m} and {plateBolt.longest_m} is wanted: to hold, and not to come out of the plate behind.',
      not: 'The plate is too thin for a thread: {plateBolt.shortest_m} would be needed, {plateBolt.longest_m} is its end.',
      ask: 'Enter the bolts that hold the throttle to the plate.',
    },
    source: 'engagement 1.5 diameters in aluminium, 2 in plastic inserts; ISO 4762 lengths',
  },
  {
    id: 'seal',
    group: 'sealing',
    title: 'Seal',
    fits: {
      any: [
        { fact: 'seal.state', is: '=', than: 'new' },
        { fact: 'seal.state', is: '=', than: 'reused, allowed and looked at' },
      ],
    },
    cure: 'New {seal.kind}',
    why: {
      fits: 'The {seal.kind} is new, or the maker allows the old one again and it is clean and whole.',
      needs: 'An old {seal.kind} goes on again only if its maker says so, and clean and whole.',
      ask: 'Nobody has said whether the {seal.kind} is new: say so under Mounting.',
    },
    source: PRACTICE,
  },
  {
    id: 'signal',
    group: 'plugs and signal',
    title: 'Signal family',
    fits: { fact: 'signal.unit', is: '=', than: { fact: 'signal.car' } },
    why: {
      fits: 'Throttle and car are both {signal.car}.',
      not: 'The car is {signal.car}, the throttle {signal.unit}: throttles that look alike do not swap across it.',
      ask: 'Enter the controls.',
    },
    source: PRACTICE,
  },
  {
    id: 'year',
    group: 'plugs and signal',
    title: 'Model-year break',
    when: { fact: 'year.asked', is: '=', than: true },
    fits: {
      all: [
        { fact: 'year.car', is: '>=', than: { fact: 'year.from' } },
        { fact: 'year.car', is: '<=', than: { fact: 'year.to' } },
      ],
    },
    why: {
      fits: 'The car’s model year {year.car} is among the throttle’s.',
      not: 'The car is of {year.car}; the throttle’s signals are those of {year.from} to {year.to}.',
      ask: 'Enter the car’s model year: this throttle has a break.',
    },
    source: PRACTICE,
  },
  {
    id: 'plug',
    group: 'plugs and signal',
    title: 'Plug',
    when: { fact: 'signal.car', is: '≠', than: 'cable' },
    fits: { fact: 'plug.unit', is: '=', than: { fact: 'plug.car' } },
    cure: 'Plug adapter, {plug.car} to {plug.unit}',
    why: {
      fits: 'Same plug, {plug.car}.',
      needs: 'The car’s plug is {plug.car}, the throttle’s {plug.unit}.',
      ask: 'Name the plug of the car and of the throttle.',
    },
    source: PRACTICE,
  },
  {
    id: 'harness',
    group: 'plugs and signal',
    title: 'Harness',
    fits: { fact: 'harness.needs_m', is: '<=', than: { fact: 'harness.slack_m' } },
    cure: 'Harness extension of {harness.needs_m} at least',
    number: 'harness.needs_m',
    why: {
      fits: 'The plug sits {harness.needs_m} farther; the harness has {harness.slack_m} to spare.',
      needs: 'The plug sits {harness.needs_m} farther than the harness’s {harness.slack_m} to spare.',
      ask: 'Measure where the plug sits on both throttles, and the harness’s slack.',
    },
    source: PRACTICE,
  },
  {
    id: 'sensor',
    group: 'sensors',
    title: 'Throttle position sensor (TPS), range',
    fits: {
      all: [
        { fact: 'sensor.closed_V', is: '>=', than: { fact: 'sensor.low_V' } },
        { fact: 'sensor.full_V', is: '<=', than: { fact: 'sensor.high_V' } },
        { fact: 'sensor.full_V', is: '>', than: { fact: 'sensor.closed_V' } },
      ],
    },
    cure: 'The stock throttle position sensor (TPS) carried over, or one that stays within {sensor.low_V} to {sensor.high_V}',
    why: {
      fits: '{sensor.closed_V} shut to {sensor.full_V} full lie inside what the control unit takes.',
      needs: '{sensor.closed_V} shut to {sensor.full_V} full: outside {sensor.low_V} to {sensor.high_V} the control unit sets a fault.',
      ask: 'Read the throttle’s sensor shut and full on the bench, 5 V on it.',
    },
    source: 'usual window of control units',
  },
  {
    id: 'idle-valve',
    group: 'sensors',
    title: 'Idle-air valve',
    fits: {
      any: [
        { fact: 'idle.unit', is: '=', than: { fact: 'idle.car' } },
        { fact: 'idle.car', is: '≠', than: 'on the unit' },
      ],
    },
    cure: 'A place for the idle-air valve: a block in the manifold, or a throttle that carries it',
    why: {
      fits: 'The idle-air valve has its place ({idle.car}).',
      needs: 'The car’s idle-air valve sits on the stock throttle; this one has no place for it.',
      ask: 'Say where the idle-air valve sits on both.',
    },
    source: PRACTICE,
  },
  {
    id: 'coolant',
    group: 'coolant and ports',
    title: 'Coolant passage',
    fits: {
      any: [
        { fact: 'coolant.car', is: '=', than: 'none' },
        { fact: 'coolant.unit', is: '=', than: 'passage' },
      ],
    },
    cure: 'Hose to join the coolant lines past the throttle, with clamps; bleed afterwards',
    why: {
      fits: 'The coolant goes where it went.',
      needs: 'The stock throttle is warmed by coolant and this one is not: join the lines, and mind that throttles ice in damp cold.',
      ask: 'Say whether coolant runs through the throttles.',
    },
    source: PRACTICE,
  },
  {
    id: 'ports',
    group: 'coolant and ports',
    title: 'Vacuum and breather ports',
    fits: { fact: 'ports.unit', is: '>=', than: { fact: 'ports.car' } },
    cure: 'Ports: the car has {ports.car}, the throttle {ports.unit}; a spacer or the manifold takes the rest',
    why: {
      fits: 'The throttle has {ports.unit} ports, the car uses {ports.car}. Cap what is left over.',
      needs: 'The throttle has {ports.unit} ports, the car uses {ports.car}.',
      ask: 'Count the ports on both throttles.',
    },
    source: PRACTICE,
  },
  {
    id: 'coupler',
    group: 'coupler',
    title: 'Coupler',
    fits: {
      all: [
        { fact: 'coupler.stretch_share', is: '<=', than: STRETCH_SHARE },
        { fact: 'coupler.loose_m', is: '<=', than: LOOSE_m },
      ],
    },
    cure: 'Reducing coupler, {coupler_m} to {coupler.spigot_m}, with clamps',
    number: 'coupler.stretch_share',
    why: {
      fits: 'The {coupler_m} coupler goes over {coupler.spigot_m}, stretched by {coupler.stretch_share}.',
      needs: 'The {coupler_m} coupler does not go well on {coupler.spigot_m}: stretched it would creep off, loose it would leak.',
      ask: 'Measure the coupler’s inside and the throttle’s spigot.',
    },
    source: OURS,
  },
  {
    id: 'length',
    group: 'coupler',
    title: 'Length taken up',
    fits: { fact: 'coupler.longer_m', is: '<=', than: { fact: 'coupler.travel_m' } },
    cure: 'The inlet pipe cut or lengthened by {coupler.longer_m}',
    number: 'coupler.longer_m',
    why: {
      fits: 'The face moves {coupler.longer_m}; the coupler takes up {coupler.travel_m}.',
      needs: 'The face moves {coupler.longer_m}, more than the coupler’s {coupler.travel_m}.',
      ask: 'Measure both throttles from flange to spigot end, and what the coupler takes up.',
    },
    source: PRACTICE,
  },
  {
    id: 'cover',
    group: 'clearance',
    title: 'Cover and bonnet',
    fits: { fact: 'cover.left_m', is: '>=', than: OVER_m },
    curable: { fact: 'cover.left_m', is: '>=', than: 0 },
    cure: 'Cover cut out or left off: {cover.left_m} are too little for an engine that rocks',
    number: 'cover.left_m',
    why: {
      fits: '{cover.left_m} stay free over the throttle.',
      needs: 'Only {cover.left_m} stay free; an engine rocks on its mounts.',
      not: 'It does not go under the cover: {cover.height_m} high where {cover.above_m} are free.',
      ask: 'Measure the throttle’s height over its bore, and what is free above.',
    },
    source: OURS,
  },
];
