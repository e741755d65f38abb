import type { WeatherDoc } from '../documents/job';
import type { RunDoc } from '../documents/run';

export type AirFigure = keyof WeatherDoc;
const FIGURES = ['p_Pa', 'T_K', 'rh'] as const satisfies readonly AirFigure[];

/** Stands in for a figure of a run's air that nobody gave, where another is known: the standard day's, half damp. */
export const USUAL_AIR: WeatherDoc = { p_Pa: 101_325, T_K: 288.15, rh: 0.5 };

type OfRun = Pick<RunDoc, 'weather'> & Partial<Pick<RunDoc, 'weatherGuessed'>>;

/**
 * The air a run can be corrected by: its pressure and its temperature are given; the humidity is, or the usual one is taken, which
 * is told wherever it can matter. Null where that is not so.
 */
export const airOf = ({ weather, weatherGuessed = [] }: OfRun): WeatherDoc | null =>
  weatherGuessed.includes('p_Pa') || weatherGuessed.includes('T_K') ? null : weather;

/** What was given of a run's air, figure by figure; null: nobody said. */
export const givenAir = ({ weather, weatherGuessed = [] }: OfRun): Readonly<Record<AirFigure, number | null>> => {
  const given = (key: AirFigure): number | null => (weather === null || weatherGuessed.includes(key) ? null : weather[key]);
  return { p_Pa: given('p_Pa'), T_K: given('T_K'), rh: given('rh') };
};

/** A run's air out of what is known of it: what is not is filled with the usual and marked as a guess. */
export function airFrom(given: Readonly<Partial<Record<AirFigure, number | null>>>): Pick<RunDoc, 'weather' | 'weatherGuessed'> {
  const weatherGuessed = FIGURES.filter((key) => (given[key] ?? null) === null);
  if (weatherGuessed.length === FIGURES.length) return { weather: null, weatherGuessed: [] };
  const figure = (key: AirFigure): number => given[key] ?? USUAL_AIR[key];
  return { weather: { p_Pa: figure('p_Pa'), T_K: figure('T_K'), rh: figure('rh') }, weatherGuessed };
}
