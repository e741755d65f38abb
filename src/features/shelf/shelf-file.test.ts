import fc from 'fast-check';
import { DEMO_SHELF } from '@/server/demo/shelf';
import { aRecord, aUnit } from '../../../test/units';
import { readShelf } from './read-shelf';
import { shelfCsv, shelfJson } from './shelf-file';

const csv = (...lines: string[]): string => lines.join('\r\n');

describe('there and back', () => {
  it('the whole demo shelf survives JSON exactly', () => {
    const back = readShelf(shelfJson(DEMO_SHELF));
    expect(back.bad).toEqual([]);
    expect(back.good.map((g) => g.doc)).toEqual(DEMO_SHELF.map((d) => ({ ...d, photo: null })));
  });

  it('and CSV, its first bench record with it', () => {
    const back = readShelf(shelfCsv(DEMO_SHELF));
    expect(back.bad).toEqual([]);
    expect(back.unknown).toEqual([]);
    back.good.forEach(({ doc }, i) => {
      const was = DEMO_SHELF[i]!;
      expect(doc.name).toBe(was.name);
      expect(doc.throttle.shape).toBe(was.throttle.shape);
      expect(doc.throttle.bore_m).toBeCloseTo(was.throttle.bore_m, 10);
      expect(doc.throttle.clearance_m).toBeCloseTo(was.throttle.clearance_m, 12);
      expect([doc.controls, doc.price, doc.throttle.count]).toEqual([was.controls, was.price, was.throttle.count]);
      if (was.bench[0]) expect(doc.bench[0]!.flow_m3ps).toBeCloseTo(was.bench[0].flow_m3ps, 9);
    });
  });

  it('any name survives, whatever marks are in it', () => {
    fc.assert(
      fc.property(
        fc.string({ minLength: 1, maxLength: 40 }).map((s) => s.trim()),
        (name) => {
          if (name === '') return;
          const doc = { ...aUnit(62).doc, name };
          const read = readShelf(shelfCsv([doc]));
          expect(read.good[0]?.doc.name).toBe(name.replaceAll('\r\n', '\n').trim());
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('reading', () => {
  it('takes columns in any order, in any unit that is named', () => {
    const { good } = readShelf(csv('price,bore (in),name,controls', '310,2.5,Marsh 63,electronic-digital'));
    expect(good[0]!.doc).toMatchObject({ name: 'Marsh 63', price: 310, controls: 'electronic-digital' });
    expect(good[0]!.doc.throttle.bore_m).toBeCloseTo(0.0635, 9);
  });

  it('sorts good rows from bad ones and says why, by the row of the file', () => {
    const { good, bad } = readShelf(
      csv(
        'name,bore (mm),shaft (mm),controls,price',
        'Good 60,60,8,cable,100',
        'No bore,,8,cable,100',
        ',62,8,cable,100',
        'Wide shaft,20,30,cable,1',
        'Odd control,60,8,string,1',
        'Bad price,60,8,cable,ten',
        'Good 60,61,8,cable,1',
      ),
    );
    expect(good.map((g) => g.doc.name)).toEqual(['Good 60']);
    expect(bad.map((b) => b.row)).toEqual([3, 4, 5, 6, 7, 8]);
    expect(bad[0]!.reasons.join()).toMatch(/bore: missing/);
    expect(bad[2]!.reasons.join()).toMatch(/shaft/);
    expect(bad[3]!.reasons.join()).toMatch(/controls: It has to be one of “cable”.* not “/);
    expect(bad[4]!.reasons.join()).toMatch(/price: "ten" is not a number/);
    expect(bad[5]!.reasons.join()).toMatch(/stands in the file already/);
  });

  it('marks names that are on the shelf already', () => {
    const { good } = readShelf(csv('name,bore (mm)', 'FENWICK 66,66', 'Other,60'), ['Fenwick 66']);
    expect(good.map((g) => g.known)).toEqual([true, false]);
  });

  it('names columns it has no use for', () => {
    expect(readShelf(csv('name,bore (mm),colour,shelf no', 'A,60,red,7')).unknown).toEqual(['colour', 'shelf no']);
    // What names no unit is read in the file's own, and that is said; an empty column is nothing to say of, nor is money.
    const bare = readShelf(csv('name,bore,shaft (mm),gap,price,bench flow', 'A,60,8,,100,400'));
    expect(bare.assumed).toEqual([
      { column: 'bore', unit: 'mm' },
      { column: 'bench flow', unit: 'cfm' },
    ]);
    expect(readShelf(csv('name,bore (mm)', 'A,60')).assumed).toEqual([]);
  });

  it('reads a bench record, and takes 28 inH₂O with a radius plate where none is said', () => {
    const { good } = readShelf(csv('name,bore (mm),bench flow (cfm)', 'A,66,640'));
    expect(good[0]!.doc.bench[0]).toMatchObject({ entryK: 0.04, bench: 'imported' });
    expect(good[0]!.doc.bench[0]!.depression_Pa).toBeCloseTo(6974.5, 0);
  });

  it.each(['bore (in)', 'bore in', 'bore_in', 'bore/in', 'bore, in', 'Bore [in]', 'bore in inches'])('knows the unit of “%s”', (head) => {
    const { good, unknown, assumed } = readShelf(csv(`name;${head}`, 'A;2.5'));
    expect([unknown, assumed]).toEqual([[], []]);
    expect(good[0]!.doc.throttle.bore_m).toBeCloseTo(0.0635, 9);
  });

  it('says what the file does not and what was taken instead, and in how many rows', () => {
    const usual = (...rows: string[]) => readShelf(csv(...rows)).usual.map((u) => `${u.column} ${u.value} ${u.rows}`);
    expect(usual('name,bore (mm),shaft (mm),bench flow (cfm),leak class,gap (mm)', 'A,66,9,640,turned,', 'B,62,,,sealed,0.05')).toEqual([
      'shape single 2',
      'shaft 8 mm 1',
      'shaft edge round 2',
      'closed angle 7 ° 2',
      'gap 0.08 mm 1',
      'controls cable 2',
      'bench depression 28 inH₂O 1',
      'bench entry K 0.04 1',
      'bench kind reading 1',
    ]);
    // What cannot be taken has nothing taken for it; a file of our own leaves nothing out.
    expect(usual('name,bore (mm)', 'A,')).toEqual([]);
    expect(readShelf(shelfCsv([aUnit(62, { bench: [aRecord(0.25)] }).doc])).usual).toEqual([]);
  });

  it.each([
    ['', /empty/],
    ['bore (mm)\r\n60', /No column is called "name"/],
    ['name\r\nA', /No column is called "bore"/],
    ['name,bore (furlong)\r\nA,60', /"furlong" is not a unit/],
    ['{"units": [', /neither a CSV table nor JSON/],
    ['{"things": []}', /holds no list of throttles/],
  ])('refuses %j in words', (text, words) => {
    expect(readShelf(text).refused).toMatch(words);
  });

  it('takes a bare list of units, and names what is wrong in one', () => {
    const read = readShelf(JSON.stringify([aUnit(62, { bench: [aRecord(0.25)] }).doc, { name: 'Broken' }, 7]));
    expect(read.good).toHaveLength(1);
    expect(read.bad.map((b) => [b.row, b.name])).toEqual([
      [2, 'Broken'],
      [3, ''],
    ]);
  });
});
