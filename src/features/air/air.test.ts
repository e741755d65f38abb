import fc from 'fast-check';
import { jobDoc } from '@/core/documents/job';
import { isFailure, must } from '@/core/failure';
import { jobModel, sideLadder } from '@/core/job/model';
import { presetJob } from '@/core/job/presets';
import { stockFitted } from '@/core/job/path';
import { ADDABLE, addPart, isMovable, movePart, removePart } from './edit-parts';
import { labelLines, lossByPart, pressureLines, type PressurePoint, sectionPieces } from './path-geometry';

const doc = presetJob('Test car', 'straight six, 2.9 L');
const ids = (d: typeof doc): string[] => d.air.parts.map((p) => p.id);

describe('editing the path', () => {
  it.each(ADDABLE.map((a) => a.type))('adds a %s ahead of the throttle and the job still solves', (type) => {
    const added = addPart(doc, type, 'pipe');
    expect(jobDoc.safeParse(added.doc).success).toBe(true);
    expect(ids(added.doc).indexOf(added.id)).toBe(ids(doc).indexOf('pipe') + 1);
    expect(isFailure(jobModel(added.doc, []))).toBe(false);
  });

  it('puts a part just before the throttle when nothing ahead of it is selected, with a name of its own', () => {
    const one = addPart(doc, 'pipe', 'opening');
    expect(ids(one.doc).at(-3)).toBe('pipe-2');
    expect(addPart(one.doc, 'pipe', null).id).toBe('pipe-3');
    expect(() => addPart(doc, 'throttle', null)).toThrow(RangeError);
  });

  it('moves parts about without ever losing one or passing the throttle', () => {
    fc.assert(
      fc.property(fc.constantFrom(...ids(doc)), fc.integer({ min: -3, max: 12 }), (id, to) => {
        const moved = movePart(doc, id, to);
        expect([...ids(moved)].sort()).toEqual([...ids(doc)].sort());
        expect(jobDoc.safeParse(moved).success).toBe(true);
        expect(ids(moved).slice(-2)).toEqual(['throttle', 'opening']);
      }),
    );
    expect(ids(movePart(doc, 'pipe', 0))[0]).toBe('pipe');
  });

  it('takes a part out, and the throttle and its opening stay', () => {
    expect(ids(removePart(doc, 'meter'))).not.toContain('meter');
    expect(doc.air.parts.filter((p) => !isMovable(p)).map((p) => p.type)).toEqual(['throttle', 'opening']);
  });
});

describe('labels of the drawing', () => {
  it('stand beside their parts where there is room, further out where not, and never on one another', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ mid: fc.integer({ min: 0, max: 600 }), width: fc.integer({ min: 10, max: 120 }) }), {
          minLength: 1,
          maxLength: 9,
        }),
        (labels) => {
          const lines = labelLines(
            labels.map((l) => l.mid),
            labels.map((l) => l.width),
            0,
          );
          expect(lines[0]).toBe(0);
          labels.forEach((a, i) =>
            labels.slice(0, i).forEach((b, k) => {
              if (lines[i] === null || lines[i] !== lines[k]) return;
              expect(Math.abs(a.mid - b.mid)).toBeGreaterThan((a.width + b.width) / 2 - 1e-9);
            }),
          );
        },
      ),
    );
    expect(labelLines([10, 12, 14], [40, 40, 40], 1)).toEqual([1, 0, null]);
  });
});

describe('the section drawn', () => {
  const fitted = stockFitted(doc);
  const pieces = sectionPieces(doc, fitted, 'stock 58');

  it('lays the parts end to end, then the plenum', () => {
    expect(pieces).toHaveLength(doc.air.parts.length + 1);
    pieces.slice(1).forEach((p, i) => expect(p.from_m).toBeCloseTo(pieces[i]!.to_m, 12));
    expect(pieces.at(-1)!.type).toBe('plenum');
    expect(pieces.every((p) => p.to_m > p.from_m)).toBe(true);
  });

  it('draws true bores, and breaks a long pipe with its true length', () => {
    expect(pieces.find((p) => p.type === 'throttle')).toMatchObject({ inBore_m: 0.058, label: 'stock 58' });
    expect(pieces.find((p) => p.type === 'pipe')).toMatchObject({ brokenFrom_m: 0.45, label: 'pipe, 2 bends' });
  });

  it('the pressure under it ends where the ladder ends, and the parts’ losses add up to it', () => {
    const model = must(jobModel(doc, []));
    const ladder = must(sideLadder(model, model.stock, 50));
    const whole = { before: null, path: ladder, offset: 0, start_Pa: doc.car.weather.p_Pa };
    const [line] = pressureLines(pieces, whole) as [PressurePoint[]];
    expect(line.at(-1)!.below_Pa).toBeCloseTo(ladder.total_Pa, 6);
    line.slice(1).forEach((p, i) => {
      expect(p.along_m).toBeGreaterThanOrEqual(line[i]!.along_m);
      expect(p.below_Pa).toBeGreaterThanOrEqual(line[i]!.below_Pa);
    });
    const losses = lossByPart(whole, doc.air.parts.length);
    expect(losses.reduce((a, b) => a + b, 0)).toBeCloseTo(ladder.total_Pa, 6);
  });
});
