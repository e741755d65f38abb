/** The same scheme for a yardstick in another language: writes the case and our answer to the file named, prints our time. */
import { writeFileSync } from 'node:fs';
import { Ducts } from '@/core/waves/ducts';
import { GAMMA, R_GAS } from '@/core/waves/gas';
import type { DuctCells } from '@/core/waves/shape';

/** Ducts and cells of a four-cylinder with its pipe, and about as many steps as one speed takes. */
const DUCTS = 5;
const CELLS = 20;
const STEPS = 12_000;
const CELL_m = 0.018;
const BORE_m = 0.04;
const COURANT = 0.9;

const area_m2 = (Math.PI / 4) * BORE_m ** 2;
const cells = (value: number, n = CELLS): Float64Array => new Float64Array(n).fill(value);
const duct = (): DuctCells => ({
  cells: CELLS,
  dx_m: CELL_m,
  faceArea_m2: cells(area_m2, CELLS + 1),
  volume_m3: cells(area_m2 * CELL_m),
  bore_m: cells(BORE_m),
  K: cells(0),
  walls: { roughness_m: 0, wall_K: null, friction: false },
});

/** A pressure hump somewhere else in each duct; both ends closed. */
const start_Pa = Array.from({ length: DUCTS }, (_, d) =>
  Array.from({ length: CELLS }, (_, i) => 101_325 * (1 + 0.2 * Math.exp(-(((i - 4 - 2 * d) / 2) ** 2)))),
);
const T_K = 300;

function run(): { p_Pa: number[][]; ms: number } {
  const ducts = new Ducts(Array.from({ length: DUCTS }, duct));
  start_Pa.forEach((row, d) => row.forEach((p, i) => ducts.setCell(d * CELLS + i, p, T_K)));
  const from = process.cpuUsage();
  for (let k = 0; k < STEPS; k += 1) {
    const dt = COURANT * ducts.longestStep();
    ducts.prepare(dt);
    // A wall gives back what comes: no flow, and the pressure that stops it.
    ducts.ends.forEach((e, i) => {
      e.massFlow = 0;
      e.energyFlow = 0;
      e.force = (e.p + e.rho * e.c * e.u) * ducts.endArea_m2[i]!;
    });
    ducts.finish(dt);
  }
  const { user, system } = process.cpuUsage(from);
  return { p_Pa: start_Pa.map((_, d) => [...ducts.p.slice(d * CELLS, (d + 1) * CELLS)]), ms: (user + system) / 1000 };
}

run();
const { p_Pa, ms } = run();
writeFileSync(
  process.argv[2]!,
  JSON.stringify({ R: R_GAS, gamma: GAMMA, start_Pa, T_K, cell_m: CELL_m, courant: COURANT, steps: STEPS, p_Pa }),
);
console.log(JSON.stringify({ ms }));
