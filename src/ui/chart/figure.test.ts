import { PALETTES } from '../theme/tokens';
import { figureOf, type ChartSpec } from './figure';
import { figureCsv } from './figure-csv';

const spec: ChartSpec = {
  lines: [
    { id: 'a', label: 'stock', x: [1000, 2000, 3000], y: [10, 20, 30], color: '#111', dash: 'longdash' },
    { id: 'b', label: 'new', x: [1000, 2000, 3000], y: [10, 21, 30.2], color: '#222' },
    { id: 'c', label: 'bare', x: [1000, 3000], y: [5, null], color: '#333', bare: true },
  ],
  bands: [{ x: [1000, 3000], low: [0, 0], high: [2, 2], color: '#444', hatch: true }],
  marks: [{ x: 2000, y: 20, text: 'gives out', color: '#111', side: 'left', lift: 1 }],
  xRange: [1000, 3000],
  xTitle: 'rpm',
  yTitle: 'power, kW',
};
type Note = { text: string; y: number; x: number; yshift?: number };
const figure = (s: ChartSpec = spec) => figureOf(s, { width: 700, height: 300 }, PALETTES.light);
const notes = (s?: ChartSpec): Note[] => figure(s).layout['annotations'] as Note[];

it('labels lines at their ends, apart from one another, and gives units on both axes', () => {
  const ends = notes().filter((n) => n.text === 'stock' || n.text === 'new');
  expect(ends).toHaveLength(2);
  expect(Math.abs(ends[0]!.y - ends[1]!.y)).toBeGreaterThan(1);
  expect(notes().map((n) => n.text)).toEqual(expect.arrayContaining(['power, kW', 'rpm', 'gives out']));
  expect(notes().some((n) => n.text === 'bare')).toBe(false);
});

it('names of marks and points cover neither one another nor a curve', () => {
  const x = Array.from({ length: 21 }, (_, i) => 1000 + 100 * i);
  const y = x.map((v) => 10 + v / 300);
  const crowd: ChartSpec = {
    ...spec,
    lines: [{ id: 'a', label: 'stock', x, y, color: '#111' }],
    bands: [],
    marks: [0, 1, 2].map((i) => ({ x: 2000 + 20 * i, y: 16.7, text: `runs short ${i}`, color: '#111', side: 'left' as const })),
    points: [0, 1].map((i) => ({ x: 2010 + 30 * i, y: 16.8, name: 'x', text: `Fenwick 6${i}`, color: '#222', strong: true })),
  };
  const range = (figure(crowd).layout['yaxis'] as { range: [number, number] }).range;
  const px = (n: Note & { xshift?: number }) => {
    const [w, h] = [700 - 46 - 92, 300 - 34 - 20];
    const cx = ((n.x - 1000) / 2000) * w + (n.xshift ?? 0);
    const cy = (1 - (n.y - range[0]) / (range[1] - range[0])) * h - (n.yshift ?? 0);
    return { x0: cx - 3 * n.text.length, x1: cx + 3 * n.text.length, y0: cy - 7, y1: cy + 7, cx, cy };
  };
  const boxes = notes(crowd)
    .filter((n) => /^(runs|Fenwick)/.test(n.text))
    .map(px);
  expect(boxes).toHaveLength(5);
  boxes.forEach((a, i) =>
    boxes.slice(i + 1).forEach((b) => {
      const apart = a.x1 <= b.x0 || b.x1 <= a.x0 || a.y1 <= b.y0 || b.y1 <= a.y0;
      expect(apart).toBe(true);
    }),
  );
  const [w, h] = [700 - 46 - 92, 300 - 34 - 20];
  for (const b of boxes)
    for (const [i, v] of x.entries()) {
      const [cx, cy] = [((v - 1000) / 2000) * w, (1 - (y[i]! - range[0]) / (range[1] - range[0])) * h];
      expect(cx > b.x0 && cx < b.x1 && cy > b.y0 && cy < b.y1).toBe(false);
    }
});

it('a throttle’s line differs by its dash as well as its colour', () => {
  const [one, two] = PALETTES.light.series;
  const dash = figure({
    ...spec,
    lines: [
      { id: 'a', label: 'a', x: [1, 2], y: [1, 2], color: one! },
      { id: 'b', label: 'b', x: [1, 2], y: [1, 2], color: two! },
    ],
    bands: [],
    marks: [],
  }).data.flatMap((t) => (t['line'] as { dash?: string } | undefined)?.dash ?? []);
  expect(dash).toEqual(['solid', 'dash']);
});

it('zoomed in, it shows that stretch and fits its heights to what is in it', () => {
  const { layout } = figureOf(spec, { width: 700, height: 300 }, PALETTES.light, [1000, 2000]);
  expect((layout['xaxis'] as { range: number[] }).range).toEqual([1000, 2000]);
  expect((layout['yaxis'] as { range: number[] }).range[1]).toBeLessThan(24);
});

it('draws bands under lines and marks over them', () => {
  const modes = figure().data.map((t) => [t['mode'], t['fill'] ?? 'line']);
  expect(modes[0]).toEqual(['lines', 'toself']);
  expect(modes.at(-1)![0]).toBe('markers');
  expect(figure().data).toHaveLength(5);
});

it('leaves the shared axis to the chart below', () => {
  expect(notes({ ...spec, hideX: true }).some((n) => n.text === 'rpm')).toBe(false);
  expect((figure({ ...spec, hideX: true }).layout['xaxis'] as { showticklabels: boolean }).showticklabels).toBe(false);
});

it('keeps to a range it is given and pads one it finds', () => {
  expect((figure({ ...spec, yRange: [0, 50] }).layout['yaxis'] as { range: number[] }).range).toEqual([0, 50]);
  const [lo, hi] = (figure().layout['yaxis'] as { range: [number, number] }).range;
  expect(lo).toBeLessThan(0);
  expect(hi).toBeGreaterThan(30.2);
});

it('writes its lines as a table with units in the header', () => {
  expect(figureCsv(spec).split('\n')).toEqual([
    'rpm,"stock (power, kW)","new (power, kW)","bare (power, kW)","band, low (power, kW)","band, high (power, kW)","point (power, kW)",which point',
    '1000,10,10,5,0,2,,',
    '2000,20,21,,0,2,20,gives out',
    '3000,30,30.2,,0,2,,',
    '',
  ]);
});

it('saves a flat line in full, names each series once, and points as points', () => {
  const flat: ChartSpec = {
    lines: [
      { id: 'a', label: 'stock', x: [1, 6], y: [100, 101], color: '#111' },
      { id: 'b', label: 'stock', x: [1, 2, 3, 4, 5, 6], y: [1, 2, null, 4, 5, 6], color: '#222' },
    ],
    points: [
      { x: 2, y: 99.5, name: '=run 2', color: '#1', strong: true },
      { x: 2, y: 99.7, name: 'run 2 again', color: '#1', strong: true },
    ],
    xRange: [0, 7],
    xTitle: 'run',
    yTitle: '%',
  };
  expect(figureCsv(flat, 'decimal comma').split('\n')).toEqual([
    '\uFEFFrun;stock (%);stock (%) (2);point (%);which point',
    '1;100;1;;',
    "2;100,2;2;99,5;'=run 2",
    '2;;;99,7;run 2 again',
    '3;100,4;;;',
    '4;100,6;4;;',
    '5;100,8;5;;',
    '6;101;6;;',
    '',
  ]);
});

describe('what a picture of bores needs', () => {
  const knee: ChartSpec = {
    ...spec,
    bands: [],
    marks: [],
    words: [
      { x: 1500, text: 'the window', color: '#0a0', anchor: 'center', low: true },
      { x: 1500, text: 'first tenth', color: '#0a0', anchor: 'left' },
    ],
    points: [
      { x: 1200, y: 12, name: 'Unit 62: +1.0 %', color: '#123', strong: true, text: 'Unit 62' },
      { x: 1800, y: 18, name: 'Unit 66: +1.9 %', color: '#456', strong: false },
    ],
  };
  type Trace = { mode: string; text?: string[]; hovertemplate: string; marker: { color: string; size: number } };

  it('words stand at the top of what they name, or at its foot', () => {
    const [low, high] = ['the window', 'first tenth'].map((text) => notes(knee).find((n) => n.text === text)!);
    expect(low).toMatchObject({ y: 0, yshift: 4 });
    expect(high).toMatchObject({ y: 1, yshift: -2 });
  });

  it('points that are on show are filled and named, the others open and silent', () => {
    const points = (figure(knee).data as unknown as Trace[]).filter((t) => t.hovertemplate?.startsWith('Unit'));
    expect(points.map((t) => t.marker.size)).toEqual([9, 7]);
    expect(points[0]!.marker.color).toBe('#123');
    expect(points[1]!.marker.color).not.toBe('#456');
    expect(figure(knee).layout['hovermode']).toBe('closest');
  });

  it('labels of lines that end close together keep apart, and inside the picture', () => {
    const lines = [0, 1, 2, 3, 4].map((i) => ({ id: String(i), label: `line ${i}`, x: [0, 1], y: [0, 100 - i * 0.01], color: '#111' }));
    const close: ChartSpec = { lines, xRange: [0, 10], yRange: [0, 100], xTitle: 'x', yTitle: 'y' };
    const ends = notes(close)
      .filter((n) => n.text.startsWith('line'))
      .map((n) => n.y)
      .sort((a, b) => a - b);
    expect(ends).toHaveLength(5);
    expect(ends.at(-1)!).toBeLessThanOrEqual(100);
    ends.slice(1).forEach((y, i) => expect(y - ends[i]!).toBeGreaterThan(3));
  });

  it('numbers under a short stretch have a decimal, under a long one none', () => {
    const format = (xRange: [number, number]) => (figure({ ...spec, xRange }).layout['xaxis'] as { tickformat: string }).tickformat;
    expect(format([1.6, 4.2])).toBe(',.1f');
    expect(format([1000, 7000])).toBe(',d');
  });
});
