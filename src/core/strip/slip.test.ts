import fc from 'fast-check';
import { towerReadings, towerRun, towerSlip } from '../stand-ins/tower';
import { MARKS_m, NO_SLIP, placePoint, slipFields, slipIssues, TIME_MARKS, type Slip } from '../documents/slip';

const SLIP: Slip = {
  reaction_s: 0.42,
  t18_s: 2.145,
  t100_s: 5.982,
  t201_s: 9.162,
  t305_s: 11.93,
  t402_s: 14.281,
  v201_mps: 34.2,
  v402_mps: 43.1,
};
const refused = (slip: Slip): string[] => slipIssues(slip).flatMap((i) => (i.level === 'refused' ? [`${i.field} ${i.code}`] : []));

describe('a slip', () => {
  it('of a real pass is let through', () => {
    expect(slipIssues(SLIP)).toEqual([]);
    expect(slipIssues(NO_SLIP)).toEqual([]);
  });

  it('whose times do not rise is refused at the field that breaks the order', () => {
    expect(refused({ ...SLIP, t201_s: 5.9 })).toEqual(['t201_s order']);
    expect(slipIssues({ ...SLIP, t201_s: 5.9 })[0]).toMatchObject({ after: 't100_s', than_s: 5.982 });
  });

  it.each([
    ['a dropped digit at 60 ft', { t18_s: 0.214 }, 't18_s too_fast'],
    ['an impossible last stretch', { t402_s: 12.3 }, 't402_s too_fast'],
    ['sixty feet in nine seconds', { t18_s: 9.5 }, 't18_s too_slow'],
    ['a trap speed of another car', { v402_mps: 62 }, 'v402_mps trap_high'],
    ['a reaction of half a minute', { reaction_s: 30 }, 'reaction_s reaction'],
  ])('%s is refused', (_what, wrong, expected) => {
    expect(refused({ ...SLIP, ...wrong })).toContain(expected);
  });

  it('of a driver who lifted is doubted, not refused', () => {
    const lifted = { ...SLIP, t402_s: 16.2, v402_mps: 21 };
    expect(refused(lifted)).toEqual([]);
    expect(slipIssues(lifted).map((i) => i.code)).toEqual(expect.arrayContaining(['lifted']));
  });

  // A stretch of 100 m in two seconds after one of 100 m in two, and so on: each limit a hair within, and a hair beyond.
  it.each([
    [
      'faster than anything drives',
      { t18_s: 2.145, t100_s: 2.145 + 82.192 / 161 },
      { t18_s: 2.145, t100_s: 2.145 + 82.192 / 159 },
      't100_s too_fast',
    ],
    ['a stretch walked', { t18_s: 2.145, t100_s: 2.145 + 82.192 / 2.9 }, { t18_s: 2.145, t100_s: 2.145 + 82.192 / 3.1 }, 't100_s too_slow'],
    ['the first 60 ft faster than wheels do', { t18_s: 0.69 }, { t18_s: 0.71 }, 't18_s too_fast'],
    ['a reaction before the light', { reaction_s: -2.1 }, { reaction_s: -1.9 }, 'reaction_s reaction'],
    ['a trap slower than walking', { v201_mps: 2.9 }, { v201_mps: 3.1 }, 'v201_mps trap_high'],
  ])('%s: the limit is where it is said to be', (_what, beyond, within, expected) => {
    expect(refused({ ...NO_SLIP, ...beyond })).toEqual([expected]);
    expect(refused({ ...NO_SLIP, ...within })).toEqual([]);
  });

  it('doubts a stretch a tenth slower than the one before, and a trap under its stretch by a fourteenth', () => {
    const doubts = (slip: Partial<Slip>): string[] =>
      slipIssues({ ...NO_SLIP, ...slip }).flatMap((i) => (i.level === 'doubt' ? [`${i.field} ${i.code}`] : []));
    const [first_s, m] = [5, MARKS_m.t201_s - MARKS_m.t100_s];
    const before = (MARKS_m.t100_s - MARKS_m.t18_s) / (first_s - 2);
    const at = (share: number): Partial<Slip> => ({ t18_s: 2, t100_s: first_s, t201_s: first_s + m / (share * before) });
    expect(doubts(at(0.895))).toEqual(['t201_s lifted']);
    expect(doubts(at(0.905))).toEqual([]);
    const trap = (share: number): Partial<Slip> => ({ ...at(1.2), v201_mps: share * 1.2 * before });
    expect(doubts(trap(0.925))).toEqual(['v201_mps trap_low']);
    expect(doubts(trap(0.935))).toEqual([]);
    expect(doubts({ v201_mps: 40, v402_mps: 35.9 })).toEqual(['v402_mps lifted']);
    expect(doubts({ v201_mps: 40, v402_mps: 36.1 })).toEqual([]);
  });

  it('takes no trap over what a car that pulls hardest at the start could reach', () => {
    const [m, from] = [MARKS_m.t201_s, MARKS_m.t100_s];
    const mean = 30;
    // From rest the speed grows with the root of the distance at most: over a stretch its mean is that of both its ends.
    const most = (2 * mean) / (1 + Math.sqrt(from / m));
    const slip = (v201_mps: number): Slip => ({ ...NO_SLIP, t18_s: 2, t100_s: 5, t201_s: 5 + (m - from) / mean, v201_mps });
    expect(refused(slip(1.09 * most))).toEqual([]);
    expect(refused(slip(1.11 * most))).toEqual(['v201_mps trap_high']);
  });

  it('of any car the stand-in drives is let through, and its times rise', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 50_000, max: 500_000, noNaN: true }),
        fc.double({ min: 700, max: 2200, noNaN: true }),
        fc.double({ min: 3, max: 7, noNaN: true }),
        fc.integer({ min: 1, max: 1000 }),
        (power_W, mass_kg, launch_mps2, seed) => {
          const slip = towerSlip({ car: { power_W, mass_kg, launch_mps2 }, seed, pass: 1 });
          expect(refused(slip)).toEqual([]);
          const times = TIME_MARKS.map((m) => slip[m]!);
          expect(times).toEqual([...times].sort((a, b) => a - b));
        },
      ),
      { numRuns: 60, endOnFailure: true },
    );
  });
});

describe('the tower stand-in', () => {
  it('is the same again for a seed, and another for the next pass', () => {
    const car = { power_W: 150_000, mass_kg: 1500, launch_mps2: 4.6 };
    expect(towerSlip({ car, seed: 3, pass: 2 })).toEqual(towerSlip({ car, seed: 3, pass: 2 }));
    expect(towerSlip({ car, seed: 3, pass: 3 })).not.toEqual(towerSlip({ car, seed: 3, pass: 2 }));
  });

  it('reads its marks in the order they are passed', () => {
    const after = towerReadings({ car: { power_W: 150_000, mass_kg: 1500, launch_mps2: 4.6 }, seed: 1, pass: 1 }).map((r) => r.after_s);
    expect(after).toEqual([...after].sort((a, b) => a - b));
    expect(after).toHaveLength(8);
  });

  it('shows more power in the trap by a third of its share, and hardly at 60 ft', () => {
    const run = (power_W: number) => towerRun({ power_W, mass_kg: 1500, launch_mps2: 4.6 });
    const [stock, more] = [run(150_000), run(153_000)];
    expect(3 * (more.v402_mps! / stock.v402_mps! - 1)).toBeGreaterThan(0.014);
    expect(3 * (more.v402_mps! / stock.v402_mps! - 1)).toBeLessThan(0.021);
    expect(Math.abs(more.t18_s! - stock.t18_s!)).toBeLessThan(0.002);
  });
});

describe('digits without a point', () => {
  it.each([
    ['t18_s', '2145', '2.145', true],
    ['t18_s', '21', '2.1', false],
    ['reaction_s', '0412', '0.412', true],
    ['reaction_s', '521', '.521', true],
    ['reaction_s', '120', '.120', false],
    ['reaction_s', '1204', '1.204', true],
    ['t402_s', '14321', '14.321', true],
    ['t402_s', '9876', '9.876', true],
    ['t201_s', '9162', '9.162', true],
    ['t201_s', '10272', '10.272', true],
    ['t305_s', '11930', '11.930', true],
    ['v402_mps', '9587', '95.87', true],
    ['v402_mps', '10412', '104.12', true],
    ['t18_s', '21459', '2.145', true],
  ] as const)('%s: %s is %s', (field, digits, text, done) => {
    expect(placePoint(field, digits, 'mph')).toEqual({ text, done });
  });

  it('kilometres an hour have three digits sooner', () => {
    expect(placePoint('v402_mps', '15342', 'kmh')).toEqual({ text: '153.42', done: true });
    expect(placePoint('v402_mps', '9342', 'kmh')).toEqual({ text: '93.42', done: true });
  });

  it('never lose or change a digit', () => {
    fc.assert(
      fc.property(fc.constantFrom(...slipFields('quarter')), fc.stringMatching(/^[1-9]\d{0,4}$/), (field, digits) => {
        const { text } = placePoint(field, digits, 'mph');
        expect(digits.startsWith(text.replace('.', ''))).toBe(true);
      }),
    );
  });

  it('an eighth of a mile has no quarter on its slip', () => {
    expect(slipFields('eighth')).not.toContain('t402_s');
    expect(slipFields('quarter')).toHaveLength(8);
  });
});
