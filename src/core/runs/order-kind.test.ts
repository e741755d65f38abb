import { runDoc, type ChannelMap, type RunDoc, type StoredRun } from '../documents/run';
import { powerKinds, runsOfOneKind } from './kind';
import { inOrder, numberInName } from './order';

const doc = (more: Partial<RunDoc> = {}): RunDoc =>
  runDoc.parse({
    schema: 1,
    name: 'run',
    side: { kind: 'stock' },
    channels: [],
    measuredAt: 'unknown',
    carried: 'unknown',
    carriedSmoothing_rpm: 0,
    weather: null,
    takenOn: null,
    gear: '',
    fuel: '',
    tune: '',
    otherChanges: '',
    coolantStart_K: null,
    leftOut: null,
    ...more,
  });
const run = (name: string, more: Partial<RunDoc> = {}, file = name): StoredRun =>
  ({ id: name, logId: file, firstRow: 0, fileName: `${file}.csv`, doc: doc({ name, ...more }) }) as StoredRun;
const came = (stampedAt: string | null, modifiedAt: string | null = null, nth: number | null = null) => ({
  came: { stampedAt, modifiedAt, nth },
});
const names = (runs: readonly StoredRun[]) =>
  inOrder(runs)
    .runs.map((r) => r.id)
    .join(' ');

describe('the order of runs', () => {
  it('follows the times in the files before those of the files, and both before numbers', () => {
    const late = run('run 1', came('2026-05-01T10:00:30Z', '2026-05-01T09:00:00Z'));
    const early = run('run 2', came('2026-05-01T10:00:05Z', '2026-05-01T09:10:00Z'));
    expect(names([late, early])).toBe('run 2 run 1');
    expect(inOrder([late, early])).toMatchObject({ basis: 'times in the files', guessed: false });
    const files = [run('run 1', came(null, '2026-05-01T09:30:00Z')), run('run 2', came(null, '2026-05-01T09:10:00Z'))];
    expect(names(files)).toBe('run 2 run 1');
    expect(inOrder(files).basis).toBe('times of the files');
  });

  it('does not believe times of files that were copied together', () => {
    const copied = [run('pull 3', came(null, '2026-05-01T09:00:00Z')), run('pull 2', came(null, '2026-05-01T09:00:01Z'))];
    expect(names(copied)).toBe('pull 2 pull 3');
    expect(inOrder(copied).basis).toBe('numbers in the names');
  });

  it('of files that say nothing is a guess: as they were chosen', () => {
    const dropped = [run('b', came(null, null, 1)), run('a', came(null, null, 0))];
    expect(names(dropped)).toBe('a b');
    expect(inOrder(dropped)).toMatchObject({ basis: 'as they came in', guessed: true });
    // Each side numbered by itself says nothing of the order between them.
    expect(inOrder([run('stock 1'), run('stock 2'), run('new 1'), run('new 2')]).guessed).toBe(true);
  });

  it('of the pulls of one file is as they stand in it', () => {
    const pulls = [
      { ...run('second', {}, 'f'), firstRow: 90 },
      { ...run('first', {}, 'f'), firstRow: 0 },
    ];
    expect(names(pulls)).toBe('first second');
    expect(inOrder(pulls).guessed).toBe(false);
  });

  it('put by hand goes before everything', () => {
    const put = [run('x', { place: 1, ...came('2026-05-01T10:00:00Z') }), run('y', { place: 0, ...came('2026-05-01T11:00:00Z') })];
    expect(names(put)).toBe('y x');
    expect(inOrder(put).basis).toBe('as arranged by hand');
  });

  it.each([
    ['stock run 7.csv', { value: 7, stem: null }],
    ['pull_03.txt', { value: 3, stem: null }],
    ['larkspur 2026-05-01 no 4.csv', { value: 4, stem: null }],
    ['12.csv', { value: 12, stem: '#' }],
    ['larkspur stock 58.csv', { value: 58, stem: 'larkspur stock #' }],
    ['58 mm unit 2.csv', null],
    ['baseline.csv', null],
    ['pasted 2.txt', null],
  ])('number in %s: %s', (name, number) => {
    expect(numberInName(name)).toEqual(number);
  });

  it('does not take bores in names for a count', () => {
    expect(inOrder([run('Fenwick 66'), run('stock 58')]).guessed).toBe(true);
    expect(inOrder([run('c', {}, 'stock 3'), run('a', {}, 'stock 1')])).toMatchObject({ basis: 'numbers in the names', guessed: false });
    // What was pasted was numbered here: it says in which order it was pasted, no more.
    expect(inOrder([run('b', {}, 'pasted 2'), run('a', {}, 'pasted 1')]).guessed).toBe(true);
  });
});

describe('kinds of power', () => {
  const map = (column: number, quantity: ChannelMap['quantity'], power?: ChannelMap['power']): ChannelMap => ({
    column,
    quantity,
    unit: 'hp',
    ...(power && { power }),
  });
  const both = run('both', {
    measuredAt: 'wheels',
    carried: 'none',
    channels: [map(0, 'power', { at: 'wheels', carried: 'none' }), map(1, 'further power', { at: 'crank', carried: 'SAE J1349' })],
  });
  const crank = run('crank', {
    measuredAt: 'crank',
    carried: 'SAE J1349',
    channels: [map(0, 'power', { at: 'crank', carried: 'SAE J1349' })],
  });

  it('are the run’s own, then what its other columns say', () => {
    expect(powerKinds(both.doc)).toEqual([
      { at: 'wheels', carried: 'none' },
      { at: 'crank', carried: 'SAE J1349' },
    ]);
  });

  it('of all runs are made one where they have one in common, and it is told who gave way', () => {
    const one = runsOfOneKind([both, crank], 'SAE J1349');
    expect(one).toMatchObject({ kind: { at: 'crank', carried: 'SAE J1349' }, changed: ['both'] });
    expect(one.runs[0]!.doc).toMatchObject({ measuredAt: 'crank', carried: 'SAE J1349' });
    expect(one.runs[0]!.doc.channels.map((c) => c.quantity)).toEqual(['further power', 'power']);
    expect(one.runs[1]).toBe(crank);
  });

  it('stay as they are where there is none in common, or they agree', () => {
    const hub = run('hub', { measuredAt: 'hub', carried: 'none', channels: [map(0, 'power')] });
    expect(runsOfOneKind([hub, crank], 'none')).toMatchObject({ runs: [hub, crank], kind: null, changed: [] });
    expect(runsOfOneKind([both, both], 'none').changed).toEqual([]);
  });

  it('in an unknown unit are none', () => {
    const unsaid = run('unsaid', { channels: [{ column: 0, quantity: 'power', unit: null }] });
    expect(powerKinds(unsaid.doc)).toEqual([]);
  });
});
