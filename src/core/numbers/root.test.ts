import fc from 'fast-check';
import { fallingRoot, fallingRootNear } from './root';

describe('fallingRoot', () => {
  it('takes a root that is an end of its bracket, and no bracket with the wrong signs', () => {
    expect(fallingRoot((x) => 2 - x, 2, 5).x).toBe(2);
    expect(fallingRoot((x) => 2 - x, 0.5, 2).x).toBe(2);
    expect(() => fallingRoot((x) => 2 - x, 3, 5)).toThrow(/upper end/);
    expect(() => fallingRoot((x) => 2 - x, 0, 1)).toThrow(/lower end/);
  });

  it('finds the root of any falling cubic to its tolerance', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.01, max: 50, noNaN: true }), fc.double({ min: 0.1, max: 20, noNaN: true }), (root, steep) => {
        const f = (x: number): number => steep * (root - x) + (root - x) ** 3;
        const found = fallingRoot(f, root * 0.1, root * 7);
        expect(found.stopped).toBe('converged');
        expect(Math.abs(found.x - root)).toBeLessThanOrEqual(1e-9 * root);
      }),
    );
  });

  it('stops at a wall when the function is still above zero where it ends', () => {
    const found = fallingRoot((x) => (x > 2 ? NaN : 5 - x), 0.1, 9);
    expect(found.stopped).toBe('wall');
    expect(found.x).toBeCloseTo(2, 9);
  });

  it('finds a root just before a wall', () => {
    const found = fallingRoot((x) => (x > 2.001 ? NaN : 2 - x), 0.1, 9);
    expect(found.stopped).toBe('converged');
    expect(found.x).toBeCloseTo(2, 9);
  });

  it('takes a bracket with the wrong signs for a programmer’s error', () => {
    expect(() => fallingRoot((x) => x, -2, -1)).toThrow(RangeError);
    expect(() => fallingRoot((x) => 5 - x, 1, 2)).toThrow(RangeError);
  });
});

describe('fallingRootNear', () => {
  it('finds the same root from guesses on both sides of it', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.05, max: 5, noNaN: true }), fc.double({ min: 0.2, max: 5, noNaN: true }), (root, ratio) => {
        const found = fallingRootNear((x) => root * root - x * x, root * ratio, 0, root * 100);
        expect(found?.x).toBeCloseTo(root, 9);
      }),
    );
  });

  it('returns null when nothing changes sign', () => {
    expect(fallingRootNear(() => 1, 1, 0, 10)).toBeNull();
    expect(fallingRootNear(() => -1, 1, 0, 10)).toBeNull();
  });
});
