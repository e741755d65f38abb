import { TACHOMETER_RATE_Hz, tachometerReadings, type TachometerReading, type TachometerSettings } from '@/core/stand-ins/tachometer';
import { VOLTMETER_RATE_Hz, voltmeterReadings, type VoltmeterReading, type VoltmeterSettings } from '@/core/stand-ins/voltmeter';
import { paced, type Device } from './device';

/** The tachometer stand-in, at the pace of a real one. */
export const tachometerStandIn: Device<TachometerSettings, TachometerReading> = {
  name: 'tachometer',
  standIn: true,
  open: (settings, signal) => paced(tachometerReadings(settings), TACHOMETER_RATE_Hz, signal),
};

/** The voltmeter stand-in. */
export const voltmeterStandIn: Device<VoltmeterSettings, VoltmeterReading> = {
  name: 'voltmeter',
  standIn: true,
  open: (settings, signal) => paced(voltmeterReadings(settings), VOLTMETER_RATE_Hz, signal),
};
