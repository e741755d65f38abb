import fc from 'fast-check';
import { drawnCar, MUST_HOLD, rangeHoldsItsCentre } from '../../../test/drawn-cars';

/** The long form of this is `npm run edges`: twenty thousand cars. */
const CARS = 60;

it.each(Object.entries(MUST_HOLD))('%s, on any car', (_, holds) => {
  fc.assert(fc.property(drawnCar, holds), { numRuns: CARS, seed: 20_261 });
});

it('the range of a gain holds the gain', () => {
  fc.assert(
    fc.property(drawnCar, (car) => rangeHoldsItsCentre(car, 100)),
    { numRuns: 4, seed: 20_262 },
  );
});
