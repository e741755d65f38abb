import { CORRECTION, DEMAND, DENSITY } from './air';
import { CEILING, DEPRESSION } from './bench';
import { PULLEY, WANTED_BOOST } from './boost';
import { COUPLER, INJECTORS } from './fuel-and-fit';
import { RUNNER } from './runner';
import type { Sum } from './sum';
import { BORE_FLOW, OVAL, STEP } from './throttle';

/** Every sum, in the order in which they are listed. */
export const SUMS: readonly Sum[] = [
  DEMAND,
  DENSITY,
  CORRECTION,
  RUNNER,
  BORE_FLOW,
  OVAL,
  STEP,
  DEPRESSION,
  CEILING,
  PULLEY,
  WANTED_BOOST,
  INJECTORS,
  COUPLER,
];
