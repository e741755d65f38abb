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
};

/** What a failure of the core means for the person at the bench, with what to do about it. */
export function failureText(f: Failure, pack: UnitPack): string {
  const who = f.side === 'candidate' ? `With ${f.where ?? 'this unit'} the intake` : 'The intake';
  switch (f.error) {
    case 'choked':
      return `${who} chokes${f.at_rpm ? ` at ${rpmText(f.at_rpm)}` : ''}: the engine asks for more air than its narrowest part can pass at the speed of sound. Look for a bore typed too small, or an efficiency typed too high.`;
    case 'blocked':
      return `${f.where ?? 'Two openings'}: the openings miss each other, no air passes. Check the offset.`;
    case 'pressure_out_of_range':
      return `The barometer is outside ${formatQuantity(50_000, 'barometer', pack)} to ${formatQuantity(110_000, 'barometer', pack)}. Type the station pressure, not the sea-level one.`;
    case 'temperature_out_of_range':
      return `The air temperature is outside ${formatQuantity(233.15, 'temperature', pack)} to ${formatQuantity(333.15, 'temperature', pack)}.`;
    case 'humidity_out_of_range':
      return 'The humidity is outside 0 to 100 %.';
    case 'bad_geometry':
      return `${f.where ? `${f.where}: ` : ''}this cannot be built: ${REASONS[f.reason ?? ''] ?? 'a size is impossible'}.`;
    case 'no_sweep':
      return f.reason === 'throttle_never_open'
        ? 'The throttle channel never reaches 95 %: this is not a full-throttle pull, or the throttle column is mapped wrongly.'
        : 'The engine speed never rises in this file. Check which column is engine speed.';
    case 'no_common_range':
      return 'The two runs have no engine speeds in common.';
    case 'bad_input':
      if (f.reason === 'no_rpm_channel') return 'No column is mapped to engine speed yet.';
      if (f.reason === 'no_power_channel') return 'No column is mapped to power or torque yet.';
      return `${f.where ? `${f.where}: ` : ''}${REASONS[f.reason ?? ''] ?? 'a figure cannot be'}.`;
    default:
      return `This cannot be computed (${f.error.replaceAll('_', ' ')}).`;
  }
}
