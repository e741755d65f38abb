import type { z } from 'zod';
import type { ThrottleDoc } from '@/core/documents/throttle';
import { testedPartDoc, unitDoc, type TestedPartDoc, type UnitDoc } from '@/core/documents/unit';
import { LEAK_CLEARANCE_m } from '@/core/flow/leak';
import { DEMO_UNITS } from './larkspur';
import { CFM_m3ps, INCH_OF_WATER_Pa } from '@/core/units/units';

const BENCH = 'Quarry Lane bench';

type Leak = 'sealed' | 'production' | 'turned';

function throttle(
  shape: ThrottleDoc['shape'],
  bore_mm: number,
  shaft_mm: number,
  edge: ThrottleDoc['edge'],
  more: { count?: number; width_mm?: number; height_mm?: number; leak?: Leak } = {},
): ThrottleDoc {
  const leak = more.leak ?? 'production';
  return {
    shape,
    bore_m: bore_mm / 1000,
    count: more.count ?? 1,
    ...(more.width_mm && more.height_mm && { width_m: more.width_mm / 1000, height_m: more.height_mm / 1000 }),
    shaft_m: shaft_mm / 1000,
    edge,
    closedAngle_rad: (7 * Math.PI) / 180,
    clearance_m: LEAK_CLEARANCE_m[leak],
    leak,
  };
}

const record = (cfm: number, at_inH2O: number, entryK: number, takenOn: string, note = ''): z.input<typeof unitDoc>['bench'][number] => ({
  flow_m3ps: cfm * CFM_m3ps,
  depression_Pa: at_inH2O * INCH_OF_WATER_Pa,
  entryK,
  bench: BENCH,
  takenOn,
  note,
});

/** The rest of the shop's shelf: seventeen more throttle bodies, all invented. */
const MORE: readonly z.input<typeof unitDoc>[] = [
  {
    schema: 1,
    name: 'Sorrel 64',
    throttle: throttle('single', 64, 8, 'round'),
    controls: 'cable',
    price: 95,
    largestOpening_m: 0.067,
    bench: [record(604, 28, 0.04, '2026-02-11')],
    note: 'Used. Shaft bushes good.',
  },
  {
    schema: 1,
    name: 'Furze 60',
    throttle: throttle('single', 60, 8, 'round', { leak: 'sealed' }),
    controls: 'cable',
    price: 210,
    largestOpening_m: 0.064,
    bench: [],
    note: 'Blade sealed against its bore by the maker: idles low.',
  },
  {
    schema: 1,
    name: 'Teasel 70',
    throttle: throttle('single', 70, 9, 'flattened', { leak: 'turned' }),
    controls: 'cable',
    price: 295,
    largestOpening_m: 0.074,
    bench: [record(744, 28, 0.04, '2026-02-11', 'blade turned by hand, leaks')],
    note: 'Bored from a smaller casting, blade turned by hand.',
  },
  {
    schema: 1,
    name: 'Bracken twin 46',
    throttle: throttle('twin', 46, 7, 'round', { count: 2 }),
    controls: 'cable',
    price: 260,
    largestOpening_m: 0.07,
    bench: [record(520, 25, 0.5, '2025-11-03', 'bare, without the radius plate')],
    note: 'Two bores on one shaft.',
  },
  {
    schema: 1,
    name: 'Sedge oval 78 × 54',
    throttle: throttle('oval', 62, 8, 'flattened', { width_mm: 78, height_mm: 54 }),
    controls: 'cable',
    price: 340,
    largestOpening_m: 0.075,
    bench: [],
    note: 'Oval bore, one shaft the long way.',
  },
  {
    schema: 1,
    name: 'Ridley 78',
    throttle: throttle('single', 78, 9, 'round'),
    controls: 'electronic-digital',
    price: 330,
    largestOpening_m: 0.084,
    bench: [record(930, 28, 0.04, '2026-03-20')],
    note: '',
  },
  {
    schema: 1,
    name: 'Ridley 82',
    throttle: throttle('single', 82, 9, 'flattened'),
    controls: 'electronic-digital',
    price: 465,
    largestOpening_m: 0.088,
    bench: [record(1068, 28, 0.04, '2026-03-20')],
    note: 'Same motor housing as the 78.',
  },
  {
    schema: 1,
    name: 'Harrow 90',
    throttle: throttle('single', 90, 10, 'flattened'),
    controls: 'electronic-digital',
    price: 690,
    largestOpening_m: 0.094,
    bench: [record(1262, 28, 0.04, '2026-03-21')],
    note: '',
  },
  {
    schema: 1,
    name: 'Alder twin 62',
    throttle: throttle('twin', 62, 8, 'round', { count: 2 }),
    controls: 'electronic-digital',
    price: 780,
    largestOpening_m: 0.095,
    bench: [],
    note: 'Two bores, one motor.',
  },
  {
    schema: 1,
    name: 'Take-off 74',
    throttle: throttle('single', 74, 9, 'round'),
    controls: 'electronic-digital',
    price: 60,
    largestOpening_m: 0.078,
    bench: [record(838, 28, 0.04, '2026-03-20', 'the usual stock throttle of these cars')],
    note: 'Used stock part, several of them on the shelf.',
  },
  {
    schema: 1,
    name: 'Dunlin 62',
    throttle: throttle('single', 62, 8, 'round'),
    controls: 'electronic-analogue',
    price: 240,
    largestOpening_m: 0.066,
    bench: [],
    note: '',
  },
  {
    schema: 1,
    name: 'Dunlin 66',
    throttle: throttle('single', 66, 8, 'flattened'),
    controls: 'electronic-analogue',
    price: 310,
    largestOpening_m: 0.07,
    bench: [record(684, 28, 0.04, '2026-01-16')],
    note: '',
  },
  {
    schema: 1,
    name: 'Plover 70',
    throttle: throttle('single', 70, 9, 'knife'),
    controls: 'electronic-analogue',
    price: 420,
    largestOpening_m: 0.074,
    bench: [],
    note: 'Knife-edged shaft, flush screws.',
  },
  {
    schema: 1,
    name: 'Linnet six 40, long trumpets',
    throttle: throttle('individual', 40, 7, 'round', { count: 6, leak: 'sealed' }),
    controls: 'cable',
    price: 240,
    largestOpening_m: 0.042,
    bench: [],
    fittings: { length_m: 0.14 },
    note: 'The same throttles with trumpets 50 mm longer, so they stand 140 mm tall. Waves say what that does; the dyno has the last word.',
  },
  {
    schema: 1,
    name: 'Linnet six 42',
    throttle: throttle('individual', 42, 7, 'flattened', { count: 6, leak: 'sealed' }),
    controls: 'cable',
    price: 1450,
    largestOpening_m: 0.044,
    bench: [{ ...record(283, 28, 0.04, '2026-04-02'), bores: 1 }],
    note: 'Set of six on a common shaft.',
  },
  {
    schema: 1,
    name: 'Linnet six 45',
    throttle: throttle('individual', 45, 7, 'knife', { count: 6, leak: 'sealed' }),
    controls: 'cable',
    price: 1780,
    largestOpening_m: 0.047,
    bench: [],
    note: 'Race set, knife-edged shafts.',
  },
  {
    schema: 1,
    name: 'Siskin 45',
    throttle: throttle('individual', 45, 7, 'flattened', { count: 1, leak: 'sealed' }),
    controls: 'cable',
    price: 210,
    largestOpening_m: 0.047,
    bench: [],
    note: 'One bore, for a single.',
  },
  {
    schema: 1,
    name: 'Siskin 48',
    throttle: throttle('individual', 48, 7, 'knife', { count: 1, leak: 'sealed' }),
    controls: 'cable',
    price: 245,
    largestOpening_m: 0.05,
    bench: [],
    note: 'One bore, knife-edged shaft.',
  },
  {
    schema: 1,
    name: 'Whin 68',
    throttle: throttle('single', 68, 8, 'round'),
    controls: 'electronic-digital',
    price: 275,
    largestOpening_m: 0.072,
    bench: [],
    note: 'Looks like the analogue one of its year before; the plugs fit, the signals do not.',
  },
  {
    schema: 1,
    name: 'Broom oval 104 × 66',
    throttle: throttle('oval', 80, 9, 'flattened', { width_mm: 104, height_mm: 66 }),
    controls: 'electronic-digital',
    price: 590,
    largestOpening_m: 0.1,
    bench: [record(1085, 28, 0.04, '2026-03-21')],
    note: '',
  },
];

/** Twenty units: the three of the Larkspur first, in the order they were put on the shelf. */
export const DEMO_SHELF: readonly UnitDoc[] = [...DEMO_UNITS, ...MORE.map((u) => unitDoc.parse(u))];

const PARTS: readonly z.input<typeof testedPartDoc>[] = [
  {
    schema: 1,
    name: 'Meter housing 74',
    kind: 'air meter',
    bore_m: 0.074,
    bench: [record(795, 28, 0.04, '2026-03-21', 'element in place')],
    note: 'As it comes on the V6 with the blower.',
  },
  {
    schema: 1,
    name: 'Meter housing 90',
    kind: 'air meter',
    bore_m: 0.09,
    bench: [record(1180, 28, 0.04, '2026-03-21', 'element in place')],
    note: '',
  },
  {
    schema: 1,
    name: 'Cold side pipe 80',
    kind: 'pipe',
    bore_m: 0.08,
    bench: [record(905, 28, 0.04, '2026-02-12', 'two bends, silicone')],
    note: '',
  },
];

/** Parts of intakes that were on the shop's flow bench. */
export const DEMO_PARTS: readonly TestedPartDoc[] = PARTS.map((p) => testedPartDoc.parse(p));
