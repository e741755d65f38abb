import type { Failure } from '@/core/failure';
import type { UnitPack } from '@/core/units/measures';
import { formatNumber, formatQuantity } from '@/core/units/quantity';

const rpmText = (rpm: number): string => `${formatNumber(Math.round(rpm / 10) * 10, 0)} rpm`;
export { rpmText };

const REASONS: Readonly<Record<string, string>> = {
  bore_not_positive: 'a bore is missing or zero',
  oval_higher_than_wide: 'the oval is higher than wide; its width is the longer way, along the shaft',
  shaft_thicker_than_bore: 'the shaft is as thick as the bore',
  bend_too_tight: 'a bend is tighter than half its bore',
  size_not_positive: 'a part has no size',
  knots_not_rising: 'the rpm of the efficiency curve do not rise',
  pipe_size: 'a pipe has no bore',
  shaft_negative: 'a shaft is thinner than nothing',
  count: 'the number of bores is not a whole number',
  closed_angle: 'the blade is shut at more than a right angle',
  bend_angle: 'a bend has no angle',
  pulley: 'a pulley has no size',
  depression: 'the depression is nothing, or a whole atmosphere',
};

const at = (f: Failure): string => (f.at_rpm ? `At ${rpmText(f.at_rpm)} ` : 'Here ');

interface Telling {
  readonly pack: UnitPack;
  /** Whose intake it is, as a sentence begins. */
  readonly who: string;
}

/** What is missing in a file, by its reason. */
const NOT_KNOWN: Readonly<Record<string, string>> = {
  no_rpm_channel: 'No column is mapped to engine speed yet.',
  rpm_unit_unknown: 'In which unit is its engine speed? The file does not say, so the run is not compared yet.',
  power_unit_unknown: 'In which unit is its power? The file does not say, so the run is not compared yet.',
  torque_unit_unknown: 'In which unit is its torque? The file does not say, so the run is not compared yet.',
  no_power_channel: 'No column is mapped to power or torque yet.',
};

const SENTENCES: { readonly [K in Failure['error']]: (f: Failure, how: Telling) => string } = {
  choked: (f, { who }) =>
    `${who} chokes${f.at_rpm ? ` at ${rpmText(f.at_rpm)}` : ''}: the engine needs more air than its narrowest part can pass at the speed of sound. Look for a bore typed too small, or an efficiency typed too high.`,
  blocked: (f) => `${f.where ?? 'Two bores'}: the bores miss each other, no air passes. Check the offset.`,
  pressure_out_of_range: (_f, { pack }) =>
    `The barometer is outside ${formatQuantity(50_000, 'barometer', pack)} to ${formatQuantity(110_000, 'barometer', pack)}. Type the station pressure, not the sea-level one.`,
  temperature_out_of_range: (_f, { pack }) =>
    `The air temperature is outside ${formatQuantity(233.15, 'temperature', pack)} to ${formatQuantity(333.15, 'temperature', pack)}.`,
  humidity_out_of_range: () => 'The humidity is outside 0 to 100 %.',
  bad_geometry: (f) => `${f.where ? `${f.where}: ` : ''}this cannot be built: ${REASONS[f.reason ?? ''] ?? 'a size is impossible'}.`,
  no_blower_solution: (f) =>
    `${at(f)}the blower cannot be brought into step with the engine: it would have to move less air than the engine swallows by itself. Look at the blower’s displacement, the pulleys and the slip.`,
  no_boost: (f) =>
    `${at(f)}the compressor would have to work backwards: the boost asked for is less than the intake leaves by itself. Look at the boost curve and the target.`,
  no_pulley: () =>
    'No pulley makes this boost: the throttle chokes, or the blower slips away, before it is reached. Ask for less, or look at the bore and the blower’s displacement.',
  bench_above_ceiling: (f) =>
    `${f.where ? `${f.where}: the` : 'The'} bench figure is above what a perfect nozzle of this bore passes. Look at the depression, the bore and the unit it was read in.`,
  no_bore: (_f, { pack }) => `No bore up to ${formatQuantity(0.25, 'bore', pack)} is enough for this.`,
  no_opening: () => 'No opening of the other throttle gives this air.',
  no_idle: () => 'Shut, the blades leak more air than any idle needs. Look at the blade clearance.',
  too_few_runs: () => 'Two runs a side at least are needed for this.',
  too_few_passes: () => 'There are too few passes for this.',
  no_spread: () => 'Every run on both sides gave the very same figure: no scatter, no interval. Look at whether one file came in twice.',
  one_side_only: () => 'Only one side has been run.',
  no_return: () => 'The old part was not run again after the new one.',
  speed_not_reached: () => 'The log never goes through this window of speed in one pull.',
  rpm_not_reached: () => 'The engine never reaches this speed here.',
  outside_channel: () => 'This channel has no sample there.',
  no_sweep: (f) =>
    f.reason === 'throttle_never_open'
      ? 'The throttle channel never reaches 95 %: this is not a full-throttle pull, or the throttle column is mapped wrongly.'
      : 'The engine speed never rises in this file. Check which column is engine speed.',
  no_common_range: (f) =>
    f.reason === 'beyond_range' && f.facts
      ? `The runs share ${formatNumber(f.facts['from_rpm']!, 0)} to ${rpmText(f.facts['to_rpm']!)}, and the range that is set leaves nothing of it: widen it, or empty its fields.`
      : 'The runs have no engine speeds in common.',
  bad_input: (f) => NOT_KNOWN[f.reason ?? ''] ?? `${f.where ? `${f.where}: ` : ''}${REASONS[f.reason ?? ''] ?? 'a figure cannot be'}.`,
};

/** What a failure of the core means for the person at the bench, with what to do about it. */
export function failureText(f: Failure, pack: UnitPack): string {
  const who = f.side === 'candidate' ? `With ${f.where ?? 'this throttle'} the intake` : 'The intake';
  return SENTENCES[f.error](f, { pack, who });
}
