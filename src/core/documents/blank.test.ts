import { aboutDoc } from './about';
import * as blank from './blank';
import { adapterDoc, fittingsDoc, manifoldFlangeDoc, roomDoc, unitFlangeDoc } from './flange';
import { inletDoc, inletTrialDoc } from './inlet';
import { installDoc } from './install';
import { fitDoc, gearboxDoc, shopDefaultsDoc, sizingDoc } from './job';
import { planDoc, roadDoc, stripPlanDoc } from './plan';
import { shopSettingsDoc } from './shop';
import { stripPassDoc, stripVisitDoc } from './strip';
import { unitDoc } from './unit';
import { verdictDoc } from './verdict';

it.each([
  ['NO_ABOUT', aboutDoc],
  ['NO_FITTINGS', fittingsDoc],
  ['NO_ROOM', roomDoc],
  ['NO_INLET', inletDoc],
  ['NO_TRIAL', inletTrialDoc],
  ['NO_INSTALL', installDoc],
  ['NO_SIZING', sizingDoc],
  ['NO_DEFAULTS', shopDefaultsDoc],
  ['NO_FIT', fitDoc],
  ['NO_PLAN', planDoc],
  ['NO_STRIP_PLAN', stripPlanDoc],
  ['NO_ROAD', roadDoc],
  ['NO_SETTINGS', shopSettingsDoc],
] as const)('%s is what its schema makes of nothing', (name, schema) => {
  expect(blank[name]).toEqual(schema.parse({}));
});

it('what has a field without a default is what its schema makes of that field alone', () => {
  const pattern = { kind: 'rectangle' as const, width_m: 0.08, height_m: 0.08 };
  expect(blank.squareManifoldFlange(0.08)).toEqual(manifoldFlangeDoc.parse({ pattern, boltLength_m: 0.025 }));
  expect(blank.squareUnitFlange(0.08)).toEqual(unitFlangeDoc.parse({ pattern, hole_m: 0.0066, thickness_m: 0.012 }));
  expect(blank.plainAdapter(0.01)).toEqual(adapterDoc.parse({ thickness_m: 0.01 }));
  expect(blank.NO_VERDICT).toEqual(verdictDoc.parse({ note: '' }));
  expect(gearboxDoc.parse(blank.NO_GEARBOX)).toEqual(blank.NO_GEARBOX);
  expect(blank.NO_PASS).toEqual(stripPassDoc.parse({ schema: 1, slip: {} }));
  const day = { track: 'Thornby', takenOn: '2026-04-25' };
  expect({ ...blank.NO_VISIT, ...day }).toEqual(stripVisitDoc.parse({ schema: 1, ...day }));
});

it('a throttle known by its bore alone is one for the shelf', () => {
  const throttle = {
    shape: 'single' as const,
    bore_m: 0.06,
    count: 1,
    shaft_m: 0.008,
    edge: 'round' as const,
    closedAngle_rad: 0.12,
    clearance_m: 4e-5,
    leak: 'production' as const,
  };
  const unit = blank.blankUnit({ name: 'Plain 60', throttle, controls: 'cable' });
  expect(unitDoc.parse(unit)).toEqual(unit);
});
