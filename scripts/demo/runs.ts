import type { DemoRun } from './dyno-files';
import { DEMO_UNITS } from './larkspur';

const fenwick = DEMO_UNITS[1]!;
const morning = { date: '2026-04-18', t_C: 16.5, p_hPa: 1003.2, rh: 0.55, coolant_C: 84 };
const late = { date: '2026-04-18', t_C: 19.0, p_hPa: 1002.1, rh: 0.5, coolant_C: 85 };
const noon = { date: '2026-04-18', t_C: 20.5, p_hPa: 1002.6, rh: 0.46, coolant_C: 86 };

/** The runs that the demo job has when it is first opened. */
export const DEMO_RUNS: readonly DemoRun[] = [
  { ...morning, file: 'stock 58, first.csv', unit: null, seed: 58_01, inlet_C: 21.0, form: 'comma' },
  { ...morning, file: 'stock 58, second.csv', unit: null, seed: 58_03, inlet_C: 22.4, form: 'comma' },
  { ...noon, file: 'Fenwick 66, first.txt', unit: fenwick, seed: 66_01, inlet_C: 26.3, form: 'semicolon' },
  { ...noon, file: 'Fenwick 66, second.txt', unit: fenwick, seed: 66_03, inlet_C: 27.2, form: 'semicolon' },
  { ...late, file: 'stock 58, again after.csv', unit: null, seed: 58_04, inlet_C: 23.5, form: 'comma' },
];

/** Two more, left in samples/ for a newcomer to drag in: the same pulls repeated, each in another dialect. */
export const SAMPLE_RUNS: readonly DemoRun[] = [
  { ...morning, file: 'larkspur-stock-58-again.csv', unit: null, seed: 58_07, inlet_C: 21.4, form: 'semicolon' },
  { ...noon, file: 'larkspur-fenwick-66-again.txt', unit: fenwick, seed: 66_27, inlet_C: 26.0, form: 'tab' },
];
