import { z } from 'zod';
import { aJob, aUnit } from '../../../test/units';
import { issuesOf, type Issue } from '@/core/documents/issue';
import { issueLine, issueText, wantedText } from './issue-text';
import { jobDoc } from '@/core/documents/job';
import { unitDoc } from '@/core/documents/unit';

const first = (schema: z.ZodType, value: unknown): Issue => {
  const parsed = schema.safeParse(value);
  if (parsed.success) throw new Error('nothing is wrong with it');
  return issuesOf(parsed.error)[0]!;
};

it.each([
  [z.number().min(0.02), 0.01, { kind: 'least', bound: 0.02 }],
  [z.number().gt(0), 0, { kind: 'more', bound: 0 }],
  [z.number().max(5), 6, { kind: 'most', bound: 5 }],
  [z.number().lt(5), 5, { kind: 'less', bound: 5 }],
  [z.number().int(), 1.5, { kind: 'whole number' }],
  [z.number(), NaN, { kind: 'figure' }],
  [z.number(), undefined, { kind: 'figure' }],
] as const)('%#: %s is told what it may be', (schema, value, wanted) => {
  expect(first(schema, value).wanted).toEqual(wanted);
});

it('where the schema has its own words they stand', () => {
  expect(first(z.number().max(1, 'above 100 %'), 2)).toEqual({ path: '', message: 'above 100 %' });
  expect(first(z.string().min(1), '').wanted).toBeUndefined();
  expect(first(z.array(z.number()).min(2), [1]).wanted).toBeUndefined();
});

it('speaks the unit of the field', () => {
  const job = aJob();
  const wide = { ...job, car: { ...job.car, stock: { ...job.car.stock, throttle: { ...job.car.stock.throttle, bore_m: 0.9 } } } };
  const issue = first(jobDoc, wide);
  expect(issue.path).toBe('car.stock.throttle.bore_m');
  expect(issueText(issue, 'bore', 'metric')).toMatch(/^It may be at most \d+\.\d mm\.$/);
  expect(issueText(issue, 'bore', { pack: 'us', own: { bore: 'in' } })).toMatch(/^It may be at most \d+\.\d{3} in\.$/);
});

it('a unit’s figures too', () => {
  const unit = aUnit(62).doc;
  const issue = first(unitDoc, { ...unit, price: -1 });
  expect(issueText(issue, 'money', 'metric')).toMatch(/^It has to be at least €\s0\.$/);
  expect(wantedText({ kind: 'whole number' }, String)).toBe('It takes a whole number.');
  expect(wantedText({ kind: 'figure' }, String)).toBe('A figure is needed here.');
});

describe('the job’s own rules', () => {
  const job = aJob('four, 1.8 L turbo');
  const induction = job.car.induction;
  if (induction.kind !== 'turbo') throw new Error('kind');
  const boosted = (boost: unknown) => ({
    ...job,
    car: { ...job.car, induction: { ...induction, compressor: { ...induction.compressor, boost } } },
  });

  it('a boost target rises in rpm, and has a value for each', () => {
    expect(first(jobDoc, boosted({ rpm: [3000, 2000], value: [1, 2] })).message).toBe('The rpm must rise from row to row.');
    expect(first(jobDoc, boosted({ rpm: [2000, 3000], value: [1] })).message).toBe('Every rpm needs its value.');
  });

  it('a compressor stands in the path of those who have one, and of no one else', () => {
    const without = { ...job, air: { ...job.air, parts: job.air.parts.filter((p) => p.type !== 'compressor') } };
    expect(first(jobDoc, without).message).toBe('The path needs its compressor.');
    const six = aJob();
    const with_ = { ...six, air: { ...six.air, parts: [{ id: 'c', type: 'compressor' as const }, ...six.air.parts] } };
    expect(first(jobDoc, with_).message).toBe('There is no compressor before this throttle.');
    const twice = { ...job, air: { ...job.air, parts: [{ id: 'c2', type: 'compressor' as const }, ...job.air.parts] } };
    expect(first(jobDoc, twice).message).toBe('The path has more than one compressor.');
  });

  it('a compressor behind the throttle is refused', () => {
    const parts = [...job.air.parts.filter((p) => p.type !== 'compressor'), { id: 'c', type: 'compressor' as const }];
    expect(first(jobDoc, { ...job, air: { ...job.air, parts } }).message).toMatch(/stands before the throttle/);
  });

  it('individual throttles belong to an individual engine', () => {
    const itb = aJob('straight six, 2.4 L, individual throttles');
    const single = { ...itb.car.stock, throttle: { ...itb.car.stock.throttle, shape: 'single' as const, count: 1 } };
    expect(first(jobDoc, { ...itb, car: { ...itb.car, stock: single } }).message).toBe('This engine has one throttle a cylinder.');
  });

  it.each([
    ['a blower that heats more than it presses', { etaAd: 0.1 }, /below 20 % it would only heat the air/],
    ['a belt of more than all', { beltEfficiency: 1.2 }, /above 100 %/],
  ])('%s is told in the field’s own words', (_name, more, words) => {
    const blown = aJob('V6, 3.3 L with a blower behind its throttle');
    if (blown.car.induction.kind !== 'drawThrough') throw new Error('kind');
    const { induction: own } = blown.car;
    expect(first(jobDoc, { ...blown, car: { ...blown.car, induction: { ...own, blower: { ...own.blower, ...more } } } }).message).toMatch(
      words,
    );
  });
});

it('a line that stands by itself says where, in the reader’s unit', () => {
  const off = (path: string, bound: number): Issue => ({ path, message: 'no', wanted: { kind: 'most', bound } });
  expect(issueLine(off('car.stock.throttle.clearance_m', 0.001), 'metric')).toBe('throttle, clearance: It may be at most 1.0 mm.');
  expect(issueLine(off('weather.T_K', 333.151), 'us')).toBe('weather, air temperature: It may be at most 140 °F.');
  expect(issueLine(off('car.ve.value.3', 1.6), 'metric')).toMatch(/^efficiency, value, no\. 4: /);
  expect(issueLine({ path: 'car.engine', message: 'Swap them.' }, 'metric')).toBe('car, engine: Swap them.');
  expect(issueLine({ path: '', message: 'A pair is needed.' }, 'metric')).toBe('A pair is needed.');
});
