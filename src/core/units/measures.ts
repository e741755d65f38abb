import type { Dimension, Unit } from './units';
import { unitById } from './units';

export const UNIT_PACKS = ['metric', 'us', 'mixed'] as const;
export type UnitPack = (typeof UNIT_PACKS)[number];

interface Shown {
  readonly unit: string;
  readonly decimals: number;
}

/** A kind of figure people see: its dimension, and the unit and decimals each pack shows it in. */
export interface Measure {
  readonly dimension: Dimension;
  readonly metric: Shown;
  readonly us: Shown;
  readonly mixed: Shown;
}

const m = (dimension: Dimension, metric: [string, number], us: [string, number], mixed: [string, number] = metric): Measure => {
  const shown = ([unit, decimals]: [string, number]): Shown => ({ unit, decimals });
  return { dimension, metric: shown(metric), us: shown(us), mixed: shown(mixed) };
};

export const MEASURES = {
  bore: m('length', ['mm', 1], ['in', 3]),
  length: m('length', ['mm', 0], ['in', 2]),
  fineLength: m('length', ['mm', 2], ['in', 4]),
  altitude: m('length', ['m', 0], ['ft', 0], ['m', 0]),
  area: m('area', ['mm2', 0], ['in2', 3]),
  displacement: m('volume', ['l', 3], ['ci', 1]),
  barometer: m('pressure', ['kPa', 1], ['inHg', 2]),
  plenum: m('pressure', ['kPa', 1], ['psi', 2]),
  loss: m('pressure', ['kPa', 2], ['inH2O', 1]),
  smallLoss: m('pressure', ['Pa', 0], ['inH2O', 2]),
  depression: m('pressure', ['kPa', 2], ['inH2O', 1], ['inH2O', 1]),
  temperature: m('temperature', ['C', 0], ['F', 0]),
  temperatureRise: m('temperatureDifference', ['dK', 1], ['dF', 1]),
  massFlow: m('massFlow', ['kgh', 0], ['lbmin', 1]),
  smallFlow: m('massFlow', ['kgh', 1], ['lbmin', 2]),
  benchFlow: m('volumeFlow', ['m3h', 0], ['cfm', 0], ['cfm', 0]),
  power: m('power', ['kW', 1], ['hp', 1], ['hp', 1]),
  torque: m('torque', ['Nm', 0], ['lbft', 0], ['lbft', 0]),
  smallTorque: m('torque', ['Nm', 1], ['lbft', 1], ['Nm', 1]),
  gasSpeed: m('speed', ['mps', 0], ['fts', 0]),
  roadSpeed: m('speed', ['kmh', 1], ['mph', 1], ['mph', 1]),
  mass: m('mass', ['kg', 0], ['lb', 0]),
  angle: m('angle', ['deg', 0], ['deg', 0]),
  rpm: m('engineSpeed', ['rpm', 0], ['rpm', 0]),
  voltage: m('voltage', ['V', 2], ['V', 2]),
  share: m('share', ['pct', 0], ['pct', 0]),
  fineShare: m('share', ['pct', 1], ['pct', 1]),
  fuelRate: m('fuelRate', ['gkWh', 0], ['lbhph', 3]),
  time: m('time', ['s', 2], ['s', 2]),
  hours: m('time', ['h', 2], ['h', 2]),
  seconds: m('time', ['s', 0], ['s', 0]),
  ratio: m('plain', ['one', 2], ['one', 2]),
  count: m('plain', ['one', 0], ['one', 0]),
  year: m('plain', ['one', 0], ['one', 0]),
  coefficient: m('plain', ['one', 3], ['one', 3]),
  density: m('density', ['kgm3', 3], ['lbft3', 4]),
  fuelFlow: m('massFlow', ['kgh', 1], ['lbh', 1]),
  injector: m('volumeFlow', ['ccmin', 0], ['ccmin', 0]),
  money: m('money', ['eur', 0], ['eur', 0]),
} as const satisfies Record<string, Measure>;

export type MeasureName = keyof typeof MEASURES;

/** Unit and decimals in which a pack shows a measure. */
export function shownUnit(measure: MeasureName, pack: UnitPack): { unit: Unit; decimals: number } {
  const shown = MEASURES[measure][pack];
  return { unit: unitById(shown.unit), decimals: shown.decimals };
}
