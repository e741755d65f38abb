import { saturationPressure } from '@/core/air/state';
import { must } from '@/core/failure';
import type { JobDoc } from '@/core/documents/job';
import type { UnitDoc } from '@/core/documents/unit';
import { jobModel } from '@/core/job/model';
import { torqueOf } from '@/core/engine/power';
import { knotCurve } from '@/core/numbers/curve';
import { seeded } from './random';

const HP = 745.69987158;
const LBFT = 1.3558179483;
const DRIVELINE_LOSS = 0.145;
/** Scatter of whole runs, of single samples, and how much of the model's gain the invented car really shows. */
const RUN_SD = 0.0025;
const SAMPLE_SD = 0.006;
const TRUTH = 0.9;

export interface DemoRun {
  readonly file: string;
  readonly unit: UnitDoc | null;
  readonly seed: number;
  readonly date: string;
  readonly t_C: number;
  readonly p_hPa: number;
  readonly rh: number;
  readonly inlet_C: number;
  readonly coolant_C: number;
  readonly form: 'comma' | 'semicolon' | 'tab';
  /** Time of day the pull was made. */
  readonly time?: string;
  readonly gear?: string;
  /** Another blower pulley, m, and how the file calls the one that is on. */
  readonly pulley_m?: number;
  readonly pulley?: string;
  /** What this unit really does where the steady model cannot say: shares of stock's power, by engine speed in rpm. */
  readonly truth?: readonly (readonly [number, number])[];
}

interface Sample {
  readonly time: number;
  readonly rpm: number;
  readonly power_W: number;
  readonly inlet_C: number;
  readonly map_kPa: number;
  readonly throttle: number;
}

/** The pull as the rollers would have logged it: the car's own model, scatter, and an inlet that warms as it runs. */
function samples(doc: JobDoc, run: DemoRun): Sample[] {
  const rng = seeded(run.seed);
  const day: JobDoc = { ...doc, car: { ...doc.car, weather: { p_Pa: run.p_hPa * 100, T_K: run.t_C + 273.15, rh: run.rh } } };
  const out: Sample[] = [];
  const whole = 1 + rng.normal(RUN_SD);
  const rate = 440;
  const step = 0.05;
  const { lowest_rpm, redline_rpm } = doc.car.engine;
  const length = Math.floor((redline_rpm - lowest_rpm - 114) / (rate * step)) - 4;
  const rpms = Array.from({ length }, (_, i) => lowest_rpm + 220 + rate * i * step);
  const unit = run.unit && { id: 'on', version: 1, doc: run.unit };
  const modelled = unit && !run.truth ? [{ unit, opening: 'matched' as const }] : [];
  const { reference, candidates } = must(jobModel(day, modelled, rpms, run.pulley_m === undefined ? {} : { pulley_m: run.pulley_m }));
  const solved = candidates[0] ? must(candidates[0].solved) : reference.result;
  const truthAt = run.truth ? must(knotCurve({ rpm: run.truth.map(([n]) => n), value: run.truth.map(([, r]) => r) })) : () => 1;
  rpms.forEach((rpm, i) => {
    const stock = reference.result.power_W[i]!;
    const model = truthAt(rpm) * (stock + TRUTH * (solved.power_W[i]! - stock));
    const lead = i < 3 ? 1 - 0.008 * (3 - i) : 1;
    out.push({
      time: i * step,
      rpm: rpm + rng.normal(4),
      power_W: model * (1 - DRIVELINE_LOSS) * whole * lead * (1 + rng.normal(SAMPLE_SD)),
      inlet_C: run.inlet_C + 0.055 * i * step * 10 + rng.normal(0.15),
      map_kPa: solved.plenum_Pa[i]! / 1000 + rng.normal(0.12),
      throttle: Math.min(100, 99.2 + rng.uniform()),
    });
  });
  // Off the throttle at the end: the rollers go on logging while the engine falls back.
  const last = out.at(-1)!;
  for (let k = 1; k <= 14; k += 1) {
    out.push({
      ...last,
      time: last.time + k * step,
      rpm: last.rpm - 55 * k,
      power_W: -last.power_W * 0.12 * (1 + rng.normal(0.05)),
      throttle: 0,
      map_kPa: 32 + rng.normal(1),
    });
  }
  return out;
}

const fixed = (x: number, digits: number): string => x.toFixed(digits);

/** A file in one of three dialects: they differ the way files from different benches do. */
export function dynoFile(doc: JobDoc, run: DemoRun): string {
  const rows = samples(doc, run);
  const dewDry = run.p_hPa - (run.rh * saturationPressure(run.t_C + 273.15)) / 100;
  const side = run.unit ? run.unit.name : `stock ${Math.round(1000 * doc.car.stock.throttle.bore_m)}`;
  if (run.form === 'comma') {
    const head = [
      `# Quarry Lane rollers, ${side}`,
      `# Date: ${run.date}`,
      `# Measured at: wheels`,
      `# Gear: ${run.gear ?? '4th'}`,
      ...(run.time ? [`# Time: ${run.time}`] : []),
      ...(run.pulley ? [`# Pulley: ${run.pulley}`] : []),
      `# Correction: none`,
      `# Barometer: ${run.p_hPa} hPa`,
      `# Air temperature: ${run.t_C} C`,
      `# Humidity: ${Math.round(run.rh * 100)} %`,
      `# Coolant: ${run.coolant_C} C`,
    ];
    const body = rows.map((s) =>
      [
        fixed(s.time, 2),
        fixed(s.rpm, 0),
        fixed(s.power_W / HP, 2),
        fixed(torqueOf(s.power_W, s.rpm) / LBFT, 2),
        fixed(s.throttle, 1),
        fixed(s.map_kPa, 2),
        fixed(s.inlet_C, 1),
      ].join(','),
    );
    return [...head, 'Time (s),Engine speed (rpm),Power (hp),Torque (lb-ft),Throttle (%),MAP (kPa),Inlet air (C)', ...body, ''].join('\n');
  }
  if (run.form === 'semicolon') {
    const comma = (x: number, d: number): string => fixed(x, d).replace('.', ',');
    const head = [
      `Prüfstand Quarry Lane;${side}`,
      `Date: ${run.date};Gear: ${run.gear ?? '4th'}${run.time ? `;Time: ${run.time}` : ''}${run.pulley ? `;Pulley: ${run.pulley}` : ''}`,
      `Measured at: wheels;Correction: none`,
      `Barometer: ${comma(run.p_hPa, 1)} hPa;Air temperature: ${comma(run.t_C, 1)} °C;Humidity: ${Math.round(run.rh * 100)} %`,
      `Dry pressure: ${comma(dewDry, 1)} hPa;Coolant: ${run.coolant_C} °C`,
      '',
    ];
    const body = rows.map((s) =>
      [comma(s.time, 2), comma(s.rpm, 1), comma(s.power_W / 1000, 3), comma(s.throttle, 1), comma(s.map_kPa, 2), comma(s.inlet_C, 1)].join(
        ';',
      ),
    );
    return [...head, 'Time;RPM;Power;Throttle;Manifold pressure;Inlet air', 's;rpm;kW;%;kPa;°C', ...body, ''].join('\r\n');
  }
  const head = [
    `Quarry Lane rollers\t${side}`,
    `Date: ${run.date}`,
    'Measured at: wheels',
    `Gear: ${run.gear ?? '4th'}`,
    ...(run.time ? [`Time: ${run.time}`] : []),
    'Correction: none',
    `Barometer: ${fixed(run.p_hPa / 33.86389, 2)} inHg\tAir temperature: ${fixed(run.t_C * 1.8 + 32, 0)} F\tHumidity: ${Math.round(run.rh * 100)} %\tCoolant: ${fixed(run.coolant_C * 1.8 + 32, 0)} F`,
  ];
  const body = rows.map((s) =>
    [
      fixed(s.time, 2),
      fixed(s.rpm, 0),
      fixed(torqueOf(s.power_W, s.rpm), 1),
      fixed(s.throttle, 1),
      fixed(s.map_kPa, 1),
      fixed(s.inlet_C * 1.8 + 32, 1),
    ].join('\t'),
  );
  return [...head, 'Time [s]\tEngine speed [rpm]\tTorque [Nm]\tThrottle [%]\tMAP [kPa]\tInlet air [F]', ...body, ''].join('\n');
}
