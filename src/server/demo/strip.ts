import { stripPassDoc, stripVisitDoc, type StripPassDoc, type StripVisitDoc } from '@/core/documents/strip';
import type { StoredJob } from '@/core/documents/job';
import { isFailure } from '@/core/failure';
import { clockOf, minuteOf } from '@/core/numbers/clock';
import { stationReadings } from '@/core/stand-ins/weather-station';
import { towerSlip } from '@/core/stand-ins/tower';
import { airOfPass } from '@/core/strip/air-of-day';
import { powerKind } from '@/core/strip/analyse';
import { correctPass } from '@/core/strip/passes';
import type { Trx } from '@/server/db/client';
import { towerCar } from '@/server/devices/strip';
import { addPasses, addVisit } from '@/server/strip';

interface DemoDay {
  readonly track: string;
  readonly takenOn: string;
  readonly from: number;
  readonly every: number;
  /** Side of each pass, in order: stock A, the unit B. */
  readonly sides: string;
  readonly seed: number;
  readonly mass_kg: number;
  readonly entryFee: number;
  readonly marks: StripVisitDoc['marks'];
  readonly speeds: StripVisitDoc['speeds'];
  readonly between?: Readonly<Record<number, string>>;
  readonly leftOut?: Readonly<Record<number, string>>;
}

export const LARKSPUR_DAYS: readonly DemoDay[] = [
  {
    track: 'Thornby airfield strip',
    takenOn: '2026-04-25',
    from: 580,
    every: 24,
    sides: 'AABBBBAAABBB',
    seed: 17,
    mass_kg: 1560,
    entryFee: 55,
    marks: 'feet',
    speeds: 'mph',
    between: { 2: 'swapped to the Fenwick 66 in the paddock', 6: 'stock back on', 9: 'Fenwick 66 on again' },
    leftOut: { 4: 'missed third' },
  },
];

export const PIPIT_DAYS: readonly DemoDay[] = [
  {
    track: 'Thornby airfield strip',
    takenOn: '2026-05-02',
    from: 600,
    every: 22,
    sides: 'AABBAABB',
    seed: 23,
    mass_kg: 1290,
    entryFee: 55,
    marks: 'feet',
    speeds: 'mph',
    between: { 2: 'Dunlin 62 on', 4: 'stock back on', 6: 'Dunlin 62 on again' },
  },
  {
    track: 'Saltmarsh eight-and-quarter',
    takenOn: '2026-05-09',
    from: 570,
    every: 25,
    sides: 'BBAABBAA',
    seed: 31,
    mass_kg: 1290,
    entryFee: 40,
    marks: 'feet',
    speeds: 'mph',
  },
];

/** Days at the strip as the stand-in tower reads them in the air of the stand-in station, kept as typed ones would be. */
export async function loadStrip(trx: Trx, job: StoredJob, unitId: string, days: readonly DemoDay[]): Promise<number> {
  const kind = powerKind(job.doc.car.induction.kind);
  let count = 0;
  for (const day of days) {
    const station = stationReadings({
      noon: job.doc.car.weather,
      seed: day.seed,
      from_min: day.from - 10,
      to_min: day.from + day.every * day.sides.length + 10,
      every_min: 15,
    });
    const weather = [...station].map(({ at_min, ...air }) => ({
      ...air,
      at: clockOf(at_min),
      from: 'stand-in' as const,
      rhGuessed: false,
    }));
    const visit = await addVisit(
      trx,
      job.id,
      stripVisitDoc.parse({
        schema: 1,
        track: day.track,
        takenOn: day.takenOn,
        marks: day.marks,
        speeds: day.speeds,
        mass_kg: day.mass_kg,
        entryFee: day.entryFee,
        weather,
      }),
    );
    const readings = weather.map((reading) => ({ reading, minute: minuteOf(reading.at) }));
    const passes: StripPassDoc[] = [];
    for (const [i, side] of [...day.sides].entries()) {
      const at = clockOf(day.from + i * day.every);
      const car = await towerCar(trx, job.doc, side === 'B' ? unitId : null, day.mass_kg);
      const air = correctPass({ kind, weather: airOfPass(readings, minuteOf(at))!.reading, et_s: 1, trapSpeed_mps: 1 });
      if (isFailure(air)) throw new Error('the demo’s air cannot be');
      passes.push(
        stripPassDoc.parse({
          schema: 1,
          at,
          side: side === 'B' ? { kind: 'unit', unitId } : { kind: 'stock' },
          lane: i % 2 === 0 ? 'left' : 'right',
          slip: towerSlip({ car: { ...car, power_W: car.power_W / air.factor }, seed: day.seed, pass: i }),
          coolant_K: 273.15 + 82 + ((i * 7) % 4),
          inlet_K: 273.15 + 24 + 0.4 * i,
          tyre_Pa: 165_000,
          launch_rpm: 3200,
          between: day.between?.[i] ?? '',
          leftOut: day.leftOut?.[i] ?? null,
        }),
      );
    }
    await addPasses(trx, visit.id, passes);
    count += passes.length;
  }
  return count;
}
