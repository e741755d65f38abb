import type { SheetEventDoc } from '@/core/documents/sheet';
import type { JobDoc } from '@/core/documents/job';
import { jobSteps } from '@/core/install/steps';
import { tachometerReadings } from '@/core/stand-ins/tachometer';

type Loose = SheetEventDoc extends infer E ? (E extends SheetEventDoc ? Omit<E, 'id' | 'who' | 'at_ms'> : never) : never;

const MINUTE_ms = 60_000;
const NOTES: Readonly<Record<string, string>> = {
  connectors: 'Grey plug of the position sensor sits under the breather: breather off first.',
  'unit-off': 'Bracket of the accelerator cable is in the way of the lower left bolt.',
  bore: 'Wall measured 4.1 mm at its thinnest, by the water jacket.',
};

/** A run-sheet as the shop wrote it: every step in its order up to one, a few minutes each, with notes, a bag and the relearn's runs. */
export function demoSheet(doc: JobDoc, mark: number, from: string, until: string | null, family = '00000000-0000'): SheetEventDoc[] {
  const out: SheetEventDoc[] = [];
  let at = Date.parse(from);
  const write = (e: Loose, at_ms = at): void => {
    const n = String(out.length + 1).padStart(12, '0');
    out.push({
      ...e,
      id: `${family}-4000-8${String(mark).padStart(3, '0')}-${n}`,
      who: out.length % 5 === 4 ? 'Tobin' : 'Maud',
      at_ms,
    } as SheetEventDoc);
  };
  for (const step of jobSteps(doc)) {
    at += 7 * MINUTE_ms;
    if (step.id === 'fasteners') write({ type: 'fasteners out', bag: 'engine cover', count: 6 });
    if (step.id === 'counted') write({ type: 'fasteners back', bag: 'engine cover', count: 6 });
    const note = NOTES[step.id];
    if (note) write({ type: 'note', step: step.id, text: note });
    if (step.id === 'relearn') at = relearn(doc, write, at);
    if (step.gate) write({ type: 'passed', gate: step.id });
    else write({ type: 'done', step: step.id });
    if (step.id === until) break;
  }
  return out;
}

/** The relearn's runs: a warm engine of the stand-in, a reading a second. */
function relearn(doc: JobDoc, write: (e: Loose, at_ms: number) => void, from_ms: number): number {
  const { cycles, run_s, rest_s, low_rpm, high_rpm } = doc.install.relearn;
  let at = from_ms;
  for (let run = 0; run < cycles; run += 1) {
    write({ type: 'engine on' }, at);
    const rpm: number[] = [];
    for (const r of tachometerReadings({ band_rpm: [low_rpm, high_rpm], case: 'sound', seed: run + 1 })) {
      if (r.t_s > run_s + 6) break;
      if (Number.isInteger(r.t_s)) rpm.push(Math.round(r.rpm));
    }
    for (let i = 0; i < rpm.length; i += 60) write({ type: 'rpm', step_ms: 1000, rpm: rpm.slice(i, i + 60) }, at + i * 1000);
    at += (run_s + 8) * 1000;
    write({ type: 'engine off' }, at);
    at += rest_s * 1000;
  }
  return at;
}
