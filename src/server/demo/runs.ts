import { CURLEW_LONG } from './curlew-truth';
import type { DemoRun } from './dyno-files';
import { DEMO_UNITS } from './larkspur';
import { DEMO_SHELF } from './shelf';

const fenwick = DEMO_UNITS[1]!;
const unitOf = (name: string): DemoRun['unit'] => {
  const unit = DEMO_SHELF.find((u) => u.name === name);
  if (!unit) throw new Error(`no demo unit ${name}`);
  return unit;
};
const morning = { date: '2026-04-18', t_C: 16.5, p_hPa: 1003.2, rh: 0.55, coolant_C: 84 };
const noon = { date: '2026-04-18', t_C: 20.5, p_hPa: 1002.6, rh: 0.46, coolant_C: 86 };
const late = { date: '2026-04-18', t_C: 19.0, p_hPa: 1002.1, rh: 0.5, coolant_C: 85 };

const evening = { date: '2026-04-18', t_C: 17.5, p_hPa: 1002.0, rh: 0.54, coolant_C: 85 };

/** The Larkspur: stock, the larger unit, stock again, and the larger unit once more, three runs each. */
export const DEMO_RUNS: readonly DemoRun[] = [
  { ...morning, time: '09:40', file: 'stock 58, first.csv', unit: null, seed: 58_01, inlet_C: 21.0, form: 'comma' },
  { ...morning, time: '09:48', file: 'stock 58, second.csv', unit: null, seed: 58_03, inlet_C: 22.4, form: 'comma' },
  { ...morning, time: '09:57', file: 'stock 58, third.csv', unit: null, seed: 58_05, inlet_C: 22.9, form: 'comma' },
  { ...noon, time: '12:10', file: 'Fenwick 66, first.txt', unit: fenwick, seed: 66_01, inlet_C: 26.3, form: 'semicolon' },
  { ...noon, time: '12:19', file: 'Fenwick 66, second.txt', unit: fenwick, seed: 66_03, inlet_C: 27.2, form: 'semicolon' },
  { ...noon, time: '12:28', file: 'Fenwick 66, third.txt', unit: fenwick, seed: 66_05, inlet_C: 27.0, form: 'semicolon' },
  { ...late, time: '15:02', file: 'stock 58, again after.csv', unit: null, seed: 58_04, inlet_C: 23.5, form: 'comma' },
  { ...late, time: '15:11', file: 'stock 58, again after, second.csv', unit: null, seed: 58_08, inlet_C: 24.1, form: 'comma' },
  { ...late, time: '15:20', file: 'stock 58, again after, third.csv', unit: null, seed: 58_10, inlet_C: 24.0, form: 'comma' },
  { ...evening, time: '16:42', file: 'Fenwick 66, again.txt', unit: fenwick, seed: 66_07, inlet_C: 24.6, form: 'semicolon' },
  { ...evening, time: '16:50', file: 'Fenwick 66, again, second.txt', unit: fenwick, seed: 66_09, inlet_C: 25.1, form: 'semicolon' },
  { ...evening, time: '16:59', file: 'Fenwick 66, again, third.txt', unit: fenwick, seed: 66_11, inlet_C: 25.0, form: 'semicolon' },
];

const ridley = unitOf('Ridley 82');
const yard = { date: '2026-04-22', t_C: 21.5, p_hPa: 998.4, rh: 0.42, coolant_C: 88, gear: '4th', form: 'comma' as const };
const wide = { pulley: '84 mm' };
const small = { pulley: '78 mm', pulley_m: 0.078 };

/** The Heron: the pulley was changed on the same afternoon as the throttle, before the last two pulls. */
export const HERON_RUNS: readonly DemoRun[] = [
  { ...yard, ...wide, time: '13:05', file: 'heron stock 74 a.csv', unit: null, seed: 74_01, inlet_C: 27.5 },
  { ...yard, ...wide, time: '13:16', file: 'heron stock 74 b.csv', unit: null, seed: 74_02, inlet_C: 29.0 },
  { ...yard, ...wide, time: '13:27', file: 'heron stock 74 c.csv', unit: null, seed: 74_03, inlet_C: 29.4 },
  { ...yard, ...wide, time: '16:10', file: 'heron ridley 82 a.csv', unit: ridley, seed: 82_01, inlet_C: 29.1 },
  { ...yard, ...wide, time: '16:21', file: 'heron ridley 82 b.csv', unit: ridley, seed: 82_02, inlet_C: 30.2 },
  { ...yard, ...small, time: '17:05', file: 'heron ridley 82 small pulley a.csv', unit: ridley, seed: 82_03, inlet_C: 33.8 },
  { ...yard, ...small, time: '17:17', file: 'heron ridley 82 small pulley b.csv', unit: ridley, seed: 82_04, inlet_C: 35.5 },
];

const long = unitOf('Linnet six 40, long trumpets');
const sprint = { date: '2026-04-11', t_C: 13.0, p_hPa: 1008.8, rh: 0.6, coolant_C: 82, gear: '4th', form: 'semicolon' as const };
const other = { ...sprint, date: '2026-04-25', t_C: 17.5, p_hPa: 1002.4, rh: 0.48 };

/** The Curlew: short trumpets on one day, long ones on another; so nobody can say which of the two it was. */
export const CURLEW_RUNS: readonly DemoRun[] = [
  { ...sprint, time: '10:00', file: 'curlew short 1.csv', unit: null, seed: 40_01, inlet_C: 17.0 },
  { ...other, time: '10:20', file: 'curlew long 1.csv', unit: long, truth: CURLEW_LONG, seed: 40_02, inlet_C: 17.9 },
  { ...sprint, time: '10:40', file: 'curlew short 2.csv', unit: null, seed: 40_03, inlet_C: 18.2 },
  { ...other, time: '11:00', file: 'curlew long 2.csv', unit: long, truth: CURLEW_LONG, seed: 40_04, inlet_C: 18.6 },
  { ...sprint, time: '11:20', file: 'curlew short 3.csv', unit: null, seed: 40_05, inlet_C: 18.4 },
  { ...other, time: '11:40', file: 'curlew long 3.csv', unit: long, truth: CURLEW_LONG, seed: 40_06, inlet_C: 18.9 },
];

/** Two more, left in samples/ for a newcomer to drag in: the same pulls repeated, each in another dialect. */
export const SAMPLE_RUNS: readonly DemoRun[] = [
  { ...morning, file: 'larkspur-stock-58-again.csv', unit: null, seed: 58_07, inlet_C: 21.4, form: 'semicolon' },
  { ...noon, file: 'larkspur-fenwick-66-again.txt', unit: fenwick, seed: 66_27, inlet_C: 26.0, form: 'tab' },
];
