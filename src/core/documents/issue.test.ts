import { z } from 'zod';
import { issuesOf } from './issue';

const said = (schema: z.ZodType, sent: unknown): string[] => {
  const { error } = schema.safeParse(sent);
  if (!error) throw new Error('nothing is wrong with it');
  return issuesOf(error, sent).map((i) => `${i.path}: ${i.message}`);
};
const car = z.strictObject({
  name: z.string().min(1).max(8),
  bore_m: z.number().gt(0).max(0.2),
  cylinders: z.int().min(1),
  edge: z.enum(['round', 'sharp']),
  parts: z.array(z.number()).max(2).default([]),
  on: z.iso.date().optional(),
  id: z.uuid().optional(),
});
const whole = { name: 'Heron', bore_m: 0.06, cylinders: 4, edge: 'round' };

it.each<[string, object, string]>([
  ['what is missing', { ...whole, name: undefined }, 'name: It is missing: it has to be a text.'],
  ['a text for a figure', { ...whole, bore_m: '60 mm' }, 'bore_m: It has to be a figure, not “60 mm”.'],
  ['half a cylinder', { ...whole, cylinders: 3.5 }, 'cylinders: It has to be a whole number, not 3.5.'],
  ['too little', { ...whole, bore_m: 0 }, 'bore_m: It has to be more than 0, not 0.'],
  ['too much', { ...whole, bore_m: 60 }, 'bore_m: It has to be at most 0.2, not 60.'],
  ['what is not among them', { ...whole, edge: 'wavy' }, 'edge: It has to be one of “round”, “sharp”, not “wavy”.'],
  ['an empty name', { ...whole, name: '' }, 'name: It has to have at least 1 character.'],
  ['a long name', { ...whole, name: 'Heron coupé' }, 'name: It has to have at most 8 characters.'],
  ['too many', { ...whole, parts: [1, 2, 3] }, 'parts: It has to have at most 2 entries.'],
  ['a list for a text', { ...whole, name: ['Heron'] }, 'name: It has to be a text, not a list.'],
  ['a day that is none', { ...whole, on: '31.5.2026' }, 'on: It has to be a day written 2026-05-31, not “31.5.2026”.'],
  ['an id that is none', { ...whole, id: '7' }, 'id: It has to be a UUID, not “7”.'],
  ['a field nobody knows', { ...whole, colour: 'red' }, ': There is no “colour” here.'],
  ['something long', { ...whole, edge: 'x'.repeat(500) }, `edge: It has to be one of “round”, “sharp”, not “${'x'.repeat(40)}…”.`],
])('says %s in plain words, and what was sent', (_what, sent, words) => {
  expect(said(car, sent)).toEqual([words]);
});

it('where it was not told what was sent it does not claim that a thing is missing', () => {
  const { error } = car.safeParse({ ...whole, name: 5 });
  expect(issuesOf(error!)[0]!.message).toBe('It has to be a text.');
});

it('marks what is not there at all', () => {
  const marks = (sent: object): unknown[] => issuesOf(car.safeParse(sent).error!, sent).map((i) => [i.path, i.missing ?? false]);
  expect(marks({ ...whole, bore_m: undefined, name: 5 })).toEqual([
    ['name', false],
    ['bore_m', true],
  ]);
  expect(marks({ ...whole, colour: 1 })).toEqual([['', false]]);
});

it('keeps the schema’s own words', () => {
  expect(said(z.number().max(1, 'above 100 %'), 2)).toEqual([': above 100 %']);
});

describe('what may be one of several', () => {
  const job = z.union([z.strictObject({ doc: car }), z.strictObject({ name: z.string(), preset: z.enum(['four', 'six']) })]);
  const part = z.discriminatedUnion('type', [
    z.strictObject({ type: z.literal('pipe'), length_m: z.number() }),
    z.strictObject({ type: z.literal('bend'), angle_rad: z.number() }),
  ]);

  const made = z.union([
    z.object({ copyOf: z.string() }),
    z.object({ doc: car }),
    z.object({ name: z.string(), preset: z.enum(['four', 'six']) }),
  ]);

  it.each<[string, unknown, string[]]>([
    ['the form whose fields are there, however few another lacks', { name: 'Heron', preset: 'V9' }, ['preset']],
    ['the form whose field is there, however much is wrong inside', { doc: {} }, ['doc.name', 'doc.bore_m', 'doc.cylinders', 'doc.edge']],
  ])('goes by %s', (_what, sent, paths) => {
    expect(said(made, sent).map((s) => s.split(':')[0])).toEqual(paths);
  });

  it('does not claim that a form lacks anything where it was not told what was sent', () => {
    expect(issuesOf(made.safeParse({ name: 'Heron' }).error!).map((i) => i.message)).toEqual(['It has to be a text.']);
  });

  it('says what each form lacks where nobody knows which was meant', () => {
    expect(said(made, { name: 'Heron' })).toEqual([': It needs “copyOf”, or “doc”, or “preset”.']);
    expect(said(made, {})).toEqual([': It needs “copyOf”, or “doc”, or “name” and “preset”.']);
  });

  it.each<[string, unknown, string[]]>([
    ['the form that lacks least', { name: 'Heron', preset: 'eight' }, ['preset: It has to be one of “four”, “six”, not “eight”.']],
    ['the form whose fields are there', { doc: { ...whole, bore_m: -1 } }, ['doc.bore_m: It has to be more than 0, not -1.']],
    ['a field of the wrong kind', { doc: 1 }, ['doc: It has to be an object, not 1.']],
    ['no object at all', null, [': It has to be an object, not null.']],
  ])('is told of %s', (_what, sent, words) => {
    expect(said(job, sent)).toEqual(words);
  });

  it('a kind there is not is told where it stands', () => {
    expect(said(z.strictObject({ parts: z.array(part) }), { parts: [{ type: 'hose', length_m: 1 }] })).toEqual([
      'parts.0.type: It is none of the kinds there are, not “hose”.',
    ]);
    expect(said(part, { type: 'bend', angle_rad: '90' })).toEqual(['angle_rad: It has to be a figure, not “90”.']);
  });
});
