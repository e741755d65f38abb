import { jobDoc } from '@/core/documents/job';
import { must } from '@/core/failure';
import { jobModel } from '@/core/job/model';
import { rankUnits } from '@/core/job/ranking';
import { waveSetup } from '@/core/job/wave-inlet';
import { waveModel } from '@/core/waves/engine';
import { CURLEW_CAM_deg, CURLEW_LONG } from './curlew-truth';
import { curlewJob } from './others';
import { DEMO_SHELF } from './shelf';

const doc = jobDoc.parse(curlewJob((name) => name));
const long = DEMO_SHELF.find((u) => u.name === 'Linnet six 40, long trumpets')!;
const model = must(jobModel(doc, [{ unit: { id: 'long', version: 1, doc: long }, opening: 'as it is' }]));
const setups = [model.stock, model.candidates[0]!].map((side) => must(waveSetup(doc, model, side)));

it('the long trumpets make the runner 50 mm longer, ahead of the blade', () => {
  const [short, tall] = setups.map((s) => s.inlet.figures);
  expect(tall!.length_m - short!.length_m).toBeCloseTo(0.05, 12);
  expect(tall!.throttleAt_m - short!.throttleAt_m).toBeCloseTo(0.05, 12);
  expect({ ...tall, length_m: 0, throttleAt_m: 0 }).toEqual({ ...short, length_m: 0, throttleAt_m: 0 });
});

it.each(CURLEW_LONG.filter((_, i) => i % 10 === 5))(
  'what they are made up to do at %d rpm is what the model says with the cam nobody knows',
  (rpm, told) => {
    const [a, b] = setups.map(({ inlet, engineAt }) => {
      const inletDuration_rad = inlet.figures.inletDuration_rad - (CURLEW_CAM_deg * Math.PI) / 180;
      return waveModel(engineAt({ ...inlet.figures, inletDuration_rad }, rpm)).run(rpm);
    });
    expect(b!.W / a!.W).toBeCloseTo(told, 3);
  },
);

it('a throttle of the same bore has no price per kilowatt: what is left of its gain is the arithmetic’s', () => {
  const [ranked] = rankUnits(doc, model, [{ id: 'long', version: 1, doc: long }]);
  expect(Math.abs(ranked!.peakGain_W!)).toBeLessThan(50);
  expect(ranked!.pricePerW).toBeNull();
});
