import { z } from 'zod';
import { presetJob } from '../job/presets';
import { figure } from './figure';
import { jobDoc } from './job';
import { checkedChange, readKept, withoutBounds } from './kept';
import { runDoc } from './run';
import { stripPassDoc, stripVisitDoc } from './strip';
import { unitDoc } from './unit';

const part = z
  .object({
    kind: z.enum(['pipe', 'filter']),
    bore_m: figure({ more: 0, most: 0.2 }),
    note: z.string().max(5).default(''),
    ends: z
      .array(figure({ least: 1, most: 9, whole: true }))
      .max(2)
      .default([]),
    made: z
      .string()
      .regex(/^\d{4}$/)
      .nullable(),
  })
  .refine((p) => p.ends[0] === undefined || p.ends[1] === undefined || p.ends[0] < p.ends[1], {
    message: 'The ends are the wrong way round.',
  });
const today = { kind: 'pipe', bore_m: 0.1, made: null };

describe('a document as it was kept', () => {
  it('is read as it would be taken in where it keeps to the bounds of today', () => {
    expect(readKept(part, today)).toEqual({ ...today, note: '', ends: [] });
  });

  it.each([{ bore_m: 7 }, { bore_m: -1 }, { note: 'much longer' }, { ends: [12, 3.5, 4] }, { ends: [5, 2] }, { made: 'lately' }])(
    'stands as it is where %j is outside of them',
    (old) => {
      expect(part.safeParse({ ...today, ...old }).success).toBe(false);
      expect(readKept(part, { ...today, ...old })).toEqual({ ...today, note: '', ends: [], ...old });
    },
  );

  it('is none where it has another form', () => {
    for (const other of [null, {}, { ...today, kind: 'lamp' }, { ...today, bore_m: '100' }, { ...today, ends: 3 }])
      expect(() => readKept(part, other)).toThrow(z.ZodError);
  });

  it.each([
    ['job', jobDoc],
    ['run', runDoc],
    ['throttle', unitDoc],
    ['visit', stripVisitDoc],
    ['pass', stripPassDoc],
  ] as const)('a %s’s form asks for no bound, however deep', (_name, schema) => {
    const bounds = (s: z.ZodType): string[] =>
      JSON.stringify(z.toJSONSchema(s, { unrepresentable: 'any', io: 'input' })).match(
        /"(minimum|exclusiveMinimum|maximum|maxLength|minLength|pattern)":["\d-]/g,
      ) ?? [];
    expect(bounds(schema).length).toBeGreaterThan(3);
    expect(bounds(withoutBounds(schema))).toEqual([]);
  });

  it('a whole job of an older day is read, every figure as it was', () => {
    const job = presetJob('Old', 'straight six, 2.9 L');
    const old = { ...job, car: { ...job.car, engine: { ...job.car.engine, redline_rpm: 40_000 } } };
    expect(jobDoc.safeParse(old).success).toBe(false);
    expect(readKept(jobDoc, JSON.parse(JSON.stringify(old)))).toEqual(old);
  });
});

describe('a change of it', () => {
  const old = { ...today, bore_m: 7, note: 'a' };

  it('is taken where what was amiss already is left as it was', () => {
    expect(checkedChange(part, old, { ...old, note: 'b' })).toMatchObject({ success: true, data: { bore_m: 7, note: 'b' } });
    expect(checkedChange(part, old, { ...old, bore_m: 0.1 })).toMatchObject({ success: true, data: { bore_m: 0.1 } });
  });

  it('is refused for what is newly wrong alone', () => {
    const issues = (after: unknown): string[] => checkedChange(part, old, after).error?.issues.map((i) => i.path.join('.')) ?? [];
    expect(issues({ ...old, note: 'far too long' })).toEqual(['note']);
    // As wrong as before, in another way.
    expect(issues({ ...old, bore_m: 8 })).toEqual(['bore_m']);
    expect(issues({ ...today, bore_m: 0.1, ends: [4, 3] })).toEqual(['']);
    expect(checkedChange(part, null, old).success).toBe(false);
  });
});
