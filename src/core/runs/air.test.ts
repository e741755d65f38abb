import { airFrom, airOf, givenAir, USUAL_AIR } from './air';

it('fills what is not known with the usual and says so', () => {
  expect(airFrom({ p_Pa: 99_000, T_K: 301 })).toEqual({ weather: { p_Pa: 99_000, T_K: 301, rh: USUAL_AIR.rh }, weatherGuessed: ['rh'] });
  expect(airFrom({ p_Pa: 99_000, T_K: 301, rh: 0 }).weatherGuessed).toEqual([]);
  expect(airFrom({ T_K: null, rh: null })).toEqual({ weather: null, weatherGuessed: [] });
});

it('corrects by what was given, with the usual humidity at most', () => {
  expect(airOf(airFrom({ p_Pa: 99_000, T_K: 301, rh: 0.3 }))).toEqual({ p_Pa: 99_000, T_K: 301, rh: 0.3 });
  expect(airOf(airFrom({ p_Pa: 99_000, T_K: 301 }))?.rh).toBe(0.5);
  expect(airOf(airFrom({ p_Pa: 99_000, rh: 0.3 }))).toBeNull();
  expect(airOf(airFrom({ T_K: 301 }))).toBeNull();
  expect(airOf(airFrom({}))).toBeNull();
});

it('gives back no more than was given', () => {
  expect(givenAir(airFrom({ T_K: 301 }))).toEqual({ p_Pa: null, T_K: 301, rh: null });
  expect(givenAir({ weather: null, weatherGuessed: [] })).toEqual({ p_Pa: null, T_K: null, rh: null });
});
