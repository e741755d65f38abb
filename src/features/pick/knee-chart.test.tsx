import { render, screen } from '@testing-library/react';
import { must } from '@/core/failure';
import { jobBounds } from '@/core/job/bounds';
import { jobKnee, kneeBores } from '@/core/job/knee';
import { jobModel } from '@/core/job/model';
import { grossBore } from '@/core/documents/openings';
import { rankUnits, type RankedUnit } from '@/core/job/ranking';
import { peakOf } from '@/core/numbers/peak';
import type { PackName } from '@/core/units/measures';
import type { ChartProps } from '@/ui/chart/chart';
import type { ChartSpec } from '@/ui/chart/figure';
import { PrefsProvider } from '@/ui/theme/prefs';
import { larkspur, units } from '../../../test/render-job';
import { KneeChart } from './knee-chart';

let drawn: ChartSpec;
jest.mock('@/ui/chart/lazy-chart', () => ({
  Chart: ({ spec, children }: ChartProps) => {
    drawn = spec;
    return <>{children}</>;
  },
}));

const model = must(
  jobModel(
    larkspur,
    units.map((unit) => ({ unit, opening: 'matched' as const })),
  ),
);
const bounds = jobBounds(larkspur, model, 'matched');
const ranked = rankUnits(larkspur, model, units, bounds);
const knee = jobKnee(
  larkspur,
  model,
  kneeBores(
    larkspur,
    units.map((u) => grossBore(u.doc.throttle)),
  ),
);
const stockPeak_W = peakOf(model.reference.result.power_W);

function show({
  pack = 'metric',
  list = ranked,
  probe_m = 0.058,
  on = bounds,
}: { pack?: PackName; list?: RankedUnit[]; probe_m?: number; on?: typeof bounds } = {}) {
  const onProbe = jest.fn();
  render(
    <PrefsProvider pack={pack} theme="light">
      <KneeChart
        model={model}
        knee={knee}
        bounds={on}
        ranked={list}
        colorOf={(id) => (id === 'unit-1' ? '#0e7c6b' : null)}
        probe_m={probe_m}
        onProbe={onProbe}
        height={256}
      />
    </PrefsProvider>,
  );
  return onProbe;
}

it('draws both openings over the bores, in the reader’s units', () => {
  show();
  expect(drawn.lines.map((l) => l.label)).toEqual(['manifold as it is', 'bored to match']);
  expect(drawn.lines[1]!.x[0]).toBeCloseTo(1000 * knee.bores_m[0]!, 6);
  expect(drawn.lines[1]!.y.at(-1)).toBeCloseTo(knee.matched_W.at(-1)! / 1000, 6);
  expect(drawn.yTitle).toBe('peak power at the crank, kW');
  show({ pack: 'us' });
  expect(drawn.xTitle).toBe('bore, mm');
  expect(drawn.yTitle).toBe('peak power at the crank, hp');
});

it('shades the window between its bounds, and hatches it with its words where no bore suits', () => {
  show();
  const [band] = drawn.bands!;
  expect(band!.x).toEqual([1000 * bounds.window.lower_m!, 1000 * bounds.window.upper_m!]);
  expect(band!.hatch).toBe(false);
  const empty = { ...bounds, window: { ...bounds.window, lower_m: 0.07, upper_m: 0.062, empty: true } };
  show({ on: empty });
  expect(drawn.bands![0]).toMatchObject({ x: [62, 70], hatch: true });
  expect(drawn.words![0]!.text).toBe('no bore suits both sides');
});

it('marks stock on its curve, a throttle on show by name, the others as rings that say what they would bring', () => {
  show();
  const [stock, ...points] = drawn.points!;
  expect(stock).toMatchObject({ x: 58, text: 'stock', strong: true });
  expect(stock!.y).toBeCloseTo(stockPeak_W / 1000, 6);
  const shown = points.find((p) => p.text === 'Fenwick 66')!;
  expect(shown).toMatchObject({ x: 66, strong: true, color: '#0e7c6b' });
  expect(shown.name).toMatch(/^Fenwick 66: \+\d\.\d %, worth buying$/);
  for (const p of points.filter((q) => q !== shown)) expect(p).toMatchObject({ strong: false });
});

it('leaves out what cannot go on this car at all, but not what is only too wide for its flange', () => {
  show();
  const names = drawn.points!.map((p) => p.name.split(':')[0]);
  for (const r of ranked.filter((x) => x.misfit === 'control' || x.misfit === 'bores')) expect(names).not.toContain(r.unit.doc.name);
  const fenwick = ranked.find((r) => r.unit.doc.name === 'Fenwick 66')!;
  show({ list: [{ ...fenwick, misfit: 'flange', verdict: 'does not fit' }] });
  expect(drawn.points!.map((p) => p.name)).toContainEqual(expect.stringMatching(/^Fenwick 66: .*, does not fit$/));
  show({ list: [{ ...fenwick, misfit: 'signal', verdict: 'does not fit' }] });
  expect(drawn.points).toHaveLength(1);
});

it('a bore tried beyond the picture stands at its edge, and is read out with its unit', () => {
  show({ probe_m: 0.5 });
  const slider = screen.getByLabelText('Bore tried');
  expect(Number(slider.getAttribute('aria-valuenow'))).toBeCloseTo(1000 * knee.bores_m.at(-1)!, 0);
  expect(slider).toHaveAttribute('aria-valuetext', expect.stringMatching(/^\d+\.\d mm$/));
});
