import { blankUnit } from '../documents/blank';
import type { ControlKind, UnitDoc } from '../documents/unit';

/** What stands in the note of every throttle of the starter shelf. */
export const STARTER_NOTE =
  'Starter shelf: a made-up, generic size with usual figures. Nobody sells or measured it. Replace it by a real part.';

const round = (bore_mm: number, shaft_mm: number, controls: ControlKind): UnitDoc => ({
  ...blankUnit({
    name: `Generic ${bore_mm}${controls === 'cable' ? '' : ' electronic'}`,
    throttle: {
      shape: 'single',
      bore_m: bore_mm / 1000,
      count: 1,
      shaft_m: shaft_mm / 1000,
      edge: 'round',
      closedAngle_rad: (7 * Math.PI) / 180,
      clearance_m: 4e-5,
      leak: 'production',
    },
    controls,
  }),
  note: STARTER_NOTE,
});

/** Round bores in usual steps, for a shop that has none of its own yet: sizes to compare with, not parts to buy. */
export const STARTER_SHELF: readonly UnitDoc[] = [
  ...[50, 54, 58, 62, 66, 70, 75, 80, 90].map((bore) => round(bore, bore < 70 ? 8 : 10, 'cable')),
  ...[58, 65, 70, 75, 82].map((bore) => round(bore, 10, 'electronic-analogue')),
];
