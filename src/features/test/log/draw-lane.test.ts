import { pyramidOf } from '@/core/logs/pyramid';
import { drawLane, type Lane } from './draw-lane';

type Point = readonly [x: number, y: number];

/** A canvas that remembers its strokes. */
function paper(): { readonly g: CanvasRenderingContext2D; readonly strokes: Point[][] } {
  const strokes: Point[][] = [];
  const g = {
    beginPath: () => {},
    stroke: () => {},
    moveTo: (x: number, y: number) => strokes.push([[x, y]]),
    lineTo: (x: number, y: number) => strokes.at(-1)!.push([x, y]),
  };
  return { g: g as unknown as CanvasRenderingContext2D, strokes };
}

const laneOf = (value: Float64Array, rate_Hz: number): Lane =>
  ({
    id: 'rpm',
    shown: {},
    color: '#123456',
    trace: { time_s: Float64Array.from(value, (_, i) => i / rate_Hz), value, pyramid: pyramidOf(value) },
  }) as unknown as Lane;

const WIDTH = 400;
const [TOP, HEIGHT] = [10, 90];

it('joins the samples of a short stretch, each where its time and figure put it', () => {
  const { g, strokes } = paper();
  expect(drawLane(g, laneOf(Float64Array.of(0, 10, 5, 0, 10), 1), [0, 4], WIDTH, TOP, HEIGHT)).toEqual({ low: 0, high: 10 });
  expect(strokes).toHaveLength(1);
  expect(strokes[0]!.map(([x]) => x)).toEqual([0, 100, 200, 300, 400]);
  const y = strokes[0]!.map((p) => p[1]);
  // The highest stands a margin below the lane's top, the lowest as much above its foot, and the middle between.
  expect(y[1]! - TOP).toBeCloseTo(TOP + HEIGHT - y[0]!, 9);
  expect(y[1]! - TOP).toBeGreaterThan(2);
  expect(y[2]).toBeCloseTo(TOP + HEIGHT / 2, 9);
  expect([y[3], y[4]]).toEqual([y[0], y[1]]);
});

it('loses no spike of a hundred thousand samples, and draws it where it was', () => {
  const value = new Float64Array(100_000).fill(800);
  value[73_210] = 4000;
  value[20_001] = 100;
  const { g, strokes } = paper();
  drawLane(g, laneOf(value, 100), [0, 1000], WIDTH, TOP, HEIGHT);
  const tall = strokes.filter(([a, b]) => Math.abs(a![1] - b![1]) > 5);
  const at = (i: number): number => Math.floor((i / 100_000) * WIDTH);
  const up = tall.filter((s) => Math.min(s[0]![1], s[1]![1]) < TOP + 20);
  const down = tall.filter((s) => Math.max(s[0]![1], s[1]![1]) > TOP + HEIGHT - 15 && !up.includes(s));
  expect(up).toHaveLength(1);
  expect(Math.abs(up[0]![0]![0] - at(73_210))).toBeLessThanOrEqual(1);
  expect(down).toHaveLength(1);
  expect(Math.abs(down[0]![0]![0] - at(20_001))).toBeLessThanOrEqual(1);
  // Every column has its stroke, a level one too: a line is seen, not a gap.
  expect(strokes.length).toBeGreaterThanOrEqual(WIDTH - 1);
  for (const [a, b] of strokes) expect(Math.abs(a![1] - b![1])).toBeGreaterThanOrEqual(1);
});

it('joins a step between two columns', () => {
  // Ten samples a column: wherever in one the step falls, also on its edge.
  for (let at = 2000; at <= 2010; at += 1) {
    const value = Float64Array.from({ length: 4000 }, (_, i) => (i < at ? 0 : 1));
    const { g, strokes } = paper();
    drawLane(g, laneOf(value, 100), [0, 40], WIDTH, TOP, HEIGHT);
    const whole = strokes.filter(([a, b]) => Math.abs(a![1] - b![1]) > HEIGHT * 0.8);
    expect(whole).toHaveLength(1);
    expect(Math.abs(whole[0]![0]![0] - at / 10)).toBeLessThanOrEqual(1);
  }
});

it('draws a stretch of a long log with the figures of the whole, so that a zoom changes no height', () => {
  const value = Float64Array.from({ length: 10_000 }, (_, i) => i);
  const { g, strokes } = paper();
  expect(drawLane(g, laneOf(value, 100), [50, 50.5], WIDTH, TOP, HEIGHT)).toEqual({ low: 0, high: 9999 });
  const xs = strokes[0]!.map(([x]) => x);
  expect(xs[0]).toBeCloseTo(0, 6);
  expect(xs.at(-1)).toBeGreaterThanOrEqual(WIDTH);
  for (const [, y] of strokes[0]!) expect(Math.abs(y - (TOP + HEIGHT / 2))).toBeLessThan(1);
});
