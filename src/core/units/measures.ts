import type { Dimension, Unit } from './units';
import { unitById } from './units';

export const UNIT_PACKS = ['metric', 'us', 'mixed'] as const;
export type PackName = (typeof UNIT_PACKS)[number];

/** A pack with what a shop or a job makes of it. */
export interface UnitSet {
  readonly pack: PackName;
  /** The unit of a measure where it is not the pack's. */
  readonly own: Readonly<Partial<Record<MeasureName, string>>>;
  /** Density of the day's air, kg/m³: an air flow told as a volume is one of this air. Left out: of bench air. */
  readonly air_kgpm3?: number;
}

/** The units figures are shown in: a pack as it stands, or one with a shop's own choices. */
export type UnitPack = PackName | UnitSet;

/** Name of the pack that units start from. */
export const packName = (pack: UnitPack): PackName => (typeof pack === 'string' ? pack : pack.pack);

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
  bore: m('length', ['mm', 1], ['mm', 1]),
  length: m('length', ['mm', 0], ['in', 2]),
  fineLength: m('length', ['mm', 2], ['in', 4]),
  altitude: m('length', ['m', 0], ['ft', 0], ['m', 0]),
  odometer: m('length', ['km', 0], ['mi', 0], ['mi', 0]),
  area: m('area', ['mm2', 0], ['in2', 3]),
  displacement: m('volume', ['l', 3], ['ci', 1]),
  barometer: m('pressure', ['kPa', 1], ['inHg', 2]),
  plenum: m('pressure', ['kPa', 1], ['psi', 1]),
  loss: m('pressure', ['kPa', 2], ['inH2O', 1]),
  smallLoss: m('pressure', ['Pa', 0], ['inH2O', 2]),
  depression: m('pressure', ['kPa', 2], ['inH2O', 1], ['inH2O', 1]),
  temperature: m('temperature', ['C', 0], ['F', 0]),
  temperatureRise: m('temperatureDifference', ['dK', 1], ['dF', 1]),
  massFlow: m('massFlow', ['kgh', 0], ['cfmAir', 0]),
  smallFlow: m('massFlow', ['kgh', 1], ['lbmin', 2]),
  benchFlow: m('volumeFlow', ['m3h', 0], ['cfm', 0], ['cfm', 0]),
  power: m('power', ['kW', 1], ['hp', 1], ['hp', 1]),
  torque: m('torque', ['Nm', 0], ['lbft', 0], ['lbft', 0]),
  smallTorque: m('torque', ['Nm', 1], ['inlb', 0], ['Nm', 1]),
  gasSpeed: m('speed', ['mps', 0], ['fts', 0]),
  roadSpeed: m('speed', ['kmh', 1], ['mph', 1], ['mph', 1]),
  mass: m('mass', ['kg', 0], ['lb', 0]),
  angle: m('angle', ['deg', 0], ['deg', 0]),
  fineAngle: m('angle', ['deg', 1], ['deg', 1]),
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
  /** What a mark on a picture's axis is worth, in whatever it is drawn in. */
  axis: m('plain', ['one', 3], ['one', 3]),
  year: m('plain', ['one', 0], ['one', 0]),
  coefficient: m('plain', ['one', 3], ['one', 3]),
  density: m('density', ['kgm3', 3], ['lbft3', 4]),
  fuelFlow: m('massFlow', ['kgh', 1], ['lbh', 1]),
  injector: m('volumeFlow', ['ccmin', 0], ['ccmin', 0]),
  money: m('money', ['eur', 0], ['eur', 0]),
} as const satisfies Record<string, Measure>;

export type MeasureName = keyof typeof MEASURES;

/** What a shop may choose: a measure's name in its settings, the measures it stands for, and units with their decimals. */
export const UNIT_CHOICES: readonly {
  readonly label: string;
  readonly measures: readonly MeasureName[];
  readonly units: readonly (readonly [id: string, decimals: number])[];
}[] = [
  {
    label: 'Bores',
    measures: ['bore'],
    units: [
      ['mm', 1],
      ['in', 3],
    ],
  },
  {
    label: 'Lengths',
    measures: ['length'],
    units: [
      ['mm', 0],
      ['cm', 1],
      ['in', 2],
    ],
  },
  {
    label: 'Displacement',
    measures: ['displacement'],
    units: [
      ['l', 3],
      ['cc', 0],
      ['ci', 1],
    ],
  },
  {
    label: 'Boost and manifold pressure',
    measures: ['plenum'],
    units: [
      ['kPa', 1],
      ['mbar', 0],
      ['bar', 3],
      ['psi', 1],
    ],
  },
  {
    label: 'Pressure losses',
    measures: ['loss', 'depression'],
    units: [
      ['kPa', 2],
      ['mbar', 0],
      ['inH2O', 1],
      ['psi', 3],
    ],
  },
  {
    label: 'Barometer',
    measures: ['barometer'],
    units: [
      ['kPa', 1],
      ['mbar', 0],
      ['inHg', 2],
      ['mmHg', 0],
    ],
  },
  {
    label: 'Air flow',
    measures: ['massFlow'],
    units: [
      ['kgh', 0],
      ['gs', 1],
      ['lbmin', 1],
      ['cfmAir', 0],
      ['m3hAir', 0],
    ],
  },
  {
    label: 'Bench flow',
    measures: ['benchFlow'],
    units: [
      ['cfm', 0],
      ['m3h', 0],
      ['lmin', 0],
    ],
  },
  {
    label: 'Power',
    measures: ['power'],
    units: [
      ['kW', 1],
      ['hp', 1],
      ['PS', 1],
    ],
  },
  {
    label: 'Torque',
    measures: ['torque'],
    units: [
      ['Nm', 0],
      ['lbft', 0],
      ['kgfm', 1],
    ],
  },
  {
    label: 'Torque of small bolts',
    measures: ['smallTorque'],
    units: [
      ['Nm', 1],
      ['inlb', 0],
      ['lbft', 1],
    ],
  },
  {
    label: 'Temperature',
    measures: ['temperature'],
    units: [
      ['C', 0],
      ['F', 0],
    ],
  },
  {
    label: 'Road speed',
    measures: ['roadSpeed'],
    units: [
      ['kmh', 1],
      ['mph', 1],
    ],
  },
];

const DECIMALS: ReadonlyMap<string, number> = new Map(
  UNIT_CHOICES.flatMap(({ measures, units }) => measures.flatMap((m) => units.map(([id, decimals]) => [`${m}/${id}`, decimals] as const))),
);

/** Whether a shop may show a measure in a unit. */
export const isUnitChoice = (measure: string, unit: string): boolean => DECIMALS.has(`${measure}/${unit}`);

/** An air flow told as a volume has its factor by the air it is of. */
export function ofTheAir(unit: Unit, pack: UnitPack): Unit {
  const air = typeof pack === 'string' ? undefined : pack.air_kgpm3;
  return unit.airVolume === undefined || air === undefined ? unit : { ...unit, factor: unit.airVolume * air };
}

/** Unit and decimals in which a pack, or a shop's choice on it, shows a measure. */
export function shownUnit(measure: MeasureName, pack: UnitPack): { unit: Unit; decimals: number } {
  const usual = MEASURES[measure][packName(pack)];
  const own = typeof pack === 'string' ? undefined : pack.own[measure];
  const id = own ?? usual.unit;
  const decimals = own === undefined ? usual.decimals : (DECIMALS.get(`${measure}/${own}`) ?? usual.decimals);
  return { unit: ofTheAir(unitById(id), pack), decimals };
}

/** Decimals of a measure with some digits less, for a figure read at a glance. */
export const coarse = (measure: MeasureName, pack: UnitPack, less = 1): number => Math.max(0, shownUnit(measure, pack).decimals - less);

/** The other way a trade tells an air flow: its mass beside a volume, a volume beside its mass. */
export function besideFlow(pack: UnitPack): { unit: Unit; decimals: number } {
  const { unit } = shownUnit('massFlow', pack);
  const us = packName(pack) === 'us';
  const [id, decimals] =
    unit.airVolume === undefined
      ? us
        ? (['cfmAir', 0] as const)
        : (['m3hAir', 0] as const)
      : us
        ? (['lbmin', 1] as const)
        : (['kgh', 0] as const);
  return { unit: ofTheAir(unitById(id), pack), decimals };
}
