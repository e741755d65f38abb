import { setTimeout as wait } from 'node:timers/promises';
import type { JobDoc } from '@/core/documents/job';
import { peakOf } from '@/core/numbers/peak';
import { stationReadings, type StationReading, type WeatherStationSettings } from '@/core/stand-ins/weather-station';
import { towerReadings, type TowerCar, type TowerReading, type TowerSettings } from '@/core/stand-ins/tower';
import type { Db, Trx } from '../db/client';
import { paced, type Device } from './device';
import { standInEngine } from './engine';

/** A reading stands for some minutes; the stand-in gives this many of them a second. */
const STATION_RATE_Hz = 8;

export const weatherStation: Device<WeatherStationSettings, StationReading> = {
  name: 'weather station',
  standIn: true,
  open: (settings, signal) => paced(stationReadings(settings), STATION_RATE_Hz, signal),
};

/** The tower tells each figure when the car passes its mark. */
async function* asPassed(settings: TowerSettings & { readonly pace: number }, signal: AbortSignal): AsyncGenerator<TowerReading> {
  let now_s = 0;
  for (const reading of towerReadings(settings)) {
    await wait((1000 * (reading.after_s - now_s)) / settings.pace, undefined, { signal }).catch(() => {});
    if (signal.aborted) return;
    now_s = reading.after_s;
    yield reading;
  }
}

export const timingTower: Device<TowerSettings & { readonly pace: number }, TowerReading> = {
  name: 'timing tower',
  standIn: true,
  open: asPassed,
};

/** What tyres of a road car and of a race car put down at the start, m/s². */
const LAUNCH_mps2 = { street: 4.6, race: 6.2 } as const;
const UNKNOWN_MASS_kg = 1450;

/** The job's car as the tower sees it: the model's peak power, stock or with a throttle on. */
export async function towerCar(db: Db | Trx, doc: JobDoc, unitId: string | null, mass_kg: number | null): Promise<TowerCar> {
  const { solved } = await standInEngine(db, doc, unitId);
  return { power_W: peakOf(solved.power_W), mass_kg: mass_kg ?? UNKNOWN_MASS_kg, launch_mps2: LAUNCH_mps2[doc.car.use] };
}
