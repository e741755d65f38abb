import { MEASURES, shownUnit, UNIT_PACKS, type MeasureName, type UnitPack } from './measures';
import { isVacuum, toSI, UNITS, type Unit } from './units';

/**
 * What figures of a measure usually lie between, SI. No limit: a figure outside is taken, but of two ways to read it the one
 * inside is meant, and another unit in which it would lie inside is offered.
 */
const USUAL: Readonly<Partial<Record<MeasureName, readonly [number, number]>>> = {
  bore: [0.008, 0.25],
  length: [0.001, 10],
  fineLength: [0, 0.5],
  altitude: [-450, 5500],
  area: [1e-5, 0.1],
  displacement: [1.2e-4, 0.02],
  barometer: [55_000, 110_000],
  plenum: [-1e5, 5e5],
  loss: [0, 5e4],
  smallLoss: [0, 2e4],
  depression: [100, 3e4],
  temperature: [223, 1300],
  temperatureRise: [0, 200],
  massFlow: [0.001, 3],
  smallFlow: [1e-5, 0.5],
  benchFlow: [0.002, 3],
  power: [2000, 2e6],
  torque: [2, 4000],
  smallTorque: [0.5, 500],
  gasSpeed: [0, 400],
  roadSpeed: [0.5, 150],
  mass: [0.5, 9000],
  rpm: [300, 25_000],
  time: [0, 900],
  hours: [0, 360_000],
  ratio: [0, 300],
  count: [0, 1e7],
  coefficient: [0, 3],
  density: [0.3, 3],
  money: [3, 1e7],
};

function isUsual(si: number, measure: MeasureName): boolean {
  const range = USUAL[measure];
  return range === undefined || (si >= range[0] && si <= range[1]);
}

/** Units in which a bare figure would be a usual one where in the shown unit it is not; the packs' own units first. */
export function unitsItFits(value: number, measure: MeasureName, pack: UnitPack): readonly Unit[] {
  const { unit } = shownUnit(measure, pack);
  if (USUAL[measure] === undefined || value === 0 || isUsual(toSI(value, unit), measure)) return [];
  const packs = UNIT_PACKS.map((p) => shownUnit(measure, p).unit.id);
  const fits = UNITS.filter(
    (u) =>
      u.dimension === MEASURES[measure].dimension && !u.airVolume && !isVacuum(u) && u.label !== '' && isUsual(toSI(value, u), measure),
  );
  return [...fits].sort((a, b) => Number(packs.includes(b.id)) - Number(packs.includes(a.id))).slice(0, 3);
}

/** A group of three behind one mark: a thousand, or three decimals. */
const GROUP = /^([+-]?)([1-9]\d{0,2})([.,])(\d{3})(?![\d.,])/;

export interface TwoReadings {
  /** As it is taken, and as it could have been meant, both in the unit it stands in. */
  readonly value: number;
  readonly also: number | null;
  /** What follows the figure. */
  readonly rest: string;
}

/**
 * A figure such as "1,450" or "6.800": a thousand unless only the decimals are usual here. Where both are, a point is taken
 * for decimals and a comma for thousands, and the other reading is told. Null: the figure is not of that kind.
 */
export function groupOfThree(text: string, measure: MeasureName, unitOf: (rest: string) => Unit | null): TwoReadings | null {
  const match = GROUP.exec(text.trim());
  if (!match) return null;
  const [all, sign, whole, mark, three] = match as unknown as [string, string, string, string, string];
  const rest = text.trim().slice(all.length).trim();
  const unit = unitOf(rest);
  if (!unit) return null;
  const signed = sign === '-' ? -1 : 1;
  const decimals = signed * Number(`${whole}.${three}`);
  const thousands = signed * Number(whole + three);
  // Money has two decimals at most.
  if (measure === 'money') return { value: thousands, also: null, rest };
  const [asDecimals, asThousands] = [isUsual(toSI(decimals, unit), measure), isUsual(toSI(thousands, unit), measure)];
  if (asDecimals !== asThousands) return { value: asDecimals ? decimals : thousands, also: null, rest };
  return mark === '.' ? { value: decimals, also: thousands, rest } : { value: thousands, also: decimals, rest };
}
