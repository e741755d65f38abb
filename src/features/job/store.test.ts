import * as schemas from '@/core/documents/schemas';
import type { StoredJob } from '@/core/documents/job';
import { presetJob } from '@/core/job/presets';
import { differingPaths, valueAt, withValue } from './paths';
import { createJobStore, firstIssue, type JobStore } from './store';
import { giveChecks } from '@/ui/checks';

const doc = presetJob('Test car', 'straight six, 2.9 L');
const job: StoredJob = { id: 'a', number: 7, version: 3, savedAt: '2026-04-18T09:00:00Z', archived: false, doc };

let clock = 0;
const fresh = (): JobStore => createJobStore(job, { stops: [] }, () => clock);
beforeEach(() => {
  clock = 0;
  giveChecks(schemas);
});

describe('paths', () => {
  it('read and replace deep values and leave everything else the same object', () => {
    const next = withValue(doc, 'car.engine.redline_rpm', 7000);
    expect(valueAt(next, 'car.engine.redline_rpm')).toBe(7000);
    expect(next.air).toBe(doc.air);
    expect(next.car.stock).toBe(doc.car.stock);
    expect(doc.car.engine.redline_rpm).toBe(6800);
    expect(withValue(doc, 'air.parts.2.bore_m', 0.09).air.parts[2]).toMatchObject({ bore_m: 0.09 });
    expect(valueAt(doc, 'car.nothing.here')).toBeUndefined();
  });

  it('name what differs down to the figure', () => {
    expect(differingPaths(doc, doc)).toEqual([]);
    expect(differingPaths(doc, withValue(doc, 'car.engine.idle_rpm', 900))).toEqual(['car.engine.idle_rpm']);
    expect(differingPaths(doc, withValue(doc, 'pick.shown', ['x']))).toEqual(['pick.shown']);
    expect(differingPaths({ a: null }, { a: 1 })).toEqual(['a']);
  });
});

describe('setting a value', () => {
  it('moves the document, marks the figure entered and waits to be saved', () => {
    const store = fresh();
    store.getState().set('car.engine.displacement_m3', 0.003);
    const s = store.getState();
    expect(s.doc.car.engine.displacement_m3).toBe(0.003);
    expect(s.doc.marks['engine.displacement_m3']).toBe('entered');
    expect(s.save).toBe('unsaved');
  });

  it('keeps a measured mark, and takes a mark it is given', () => {
    const store = fresh();
    store.getState().change((d) => ({ ...d, marks: { 'engine.idle_rpm': 'measured' } }));
    store.getState().set('car.engine.idle_rpm', 800);
    expect(store.getState().doc.marks['engine.idle_rpm']).toBe('measured');
    store.getState().set('car.engine.idle_rpm', 820, 'assumed');
    expect(store.getState().doc.marks['engine.idle_rpm']).toBe('assumed');
  });

  it('refuses impossible geometry with the reason and leaves the document alone', () => {
    const store = fresh();
    store.getState().set('car.stock.throttle.shaft_m', 0.05);
    store.getState().set('car.stock.throttle.bore_m', 0.045);
    const s = store.getState();
    expect(s.doc.car.stock.throttle.bore_m).toBe(0.058);
    expect(s.pending['car.stock.throttle.bore_m']!.message).toMatch(/as thick as the bore/);
  });

  it('refuses reversed rpm limits, and takes both once the other one makes them right', () => {
    const store = fresh();
    store.getState().set('car.engine.lowest_rpm', 7500);
    expect(store.getState().doc.car.engine.lowest_rpm).toBe(1500);
    expect(store.getState().pending['car.engine.lowest_rpm']!.message ?? '').toMatch(/Swap them/);
    store.getState().set('car.engine.redline_rpm', 9000);
    const s = store.getState();
    expect(s.doc.car.engine).toMatchObject({ lowest_rpm: 7500, redline_rpm: 9000 });
    expect(s.pending).toEqual({});
  });

  it('lets an unrelated figure through while another is still pending', () => {
    const store = fresh();
    store.getState().set('car.engine.lowest_rpm', 7500);
    store.getState().set('car.engine.idle_rpm', 900);
    expect(store.getState().doc.car.engine.idle_rpm).toBe(900);
    expect(store.getState().pending).toHaveProperty(['car.engine.lowest_rpm']);
  });

  it('what is refused in the end leaves everything as it was when its field was entered', () => {
    const store = fresh();
    const set = (v: number): void => store.getState().set('car.engine.redline_rpm', v);
    set(7000);
    const { doc: before } = store.getState();
    store.getState().begin();
    for (const v of [2500, 25_000]) set(v);
    expect(store.getState().doc).toBe(before);
    expect(store.getState().pending['car.engine.redline_rpm']).toMatchObject({ value: 25_000 });
    // Put right it stands, and what stood when the field was entered is not come back to for another field's sake.
    set(7200);
    store.getState().begin();
    store.getState().set('car.engine.idle_rpm', 90_000);
    expect(store.getState().doc.car.engine).toMatchObject({ redline_rpm: 7200, idle_rpm: before.car.engine.idle_rpm });
  });

  it('an undo does not bring back the first digits of what was refused', () => {
    const store = fresh();
    store.getState().set('car.engine.idle_rpm', 800);
    store.getState().begin();
    for (const v of [2500, 25_000]) {
      clock += 5000;
      store.getState().set('car.engine.redline_rpm', v);
    }
    expect(store.getState().save).toBe('unsaved');
    store.getState().undo();
    expect(store.getState().doc).toBe(doc);
  });

  it('takes nothing back that was done beside it since', () => {
    const store = fresh();
    store.getState().begin();
    store.getState().set('car.engine.redline_rpm', 2500);
    store.getState().change((d) => ({ ...d, goal: 'more' }));
    store.getState().set('car.engine.redline_rpm', 25_000);
    store.getState().back();
    expect(store.getState().doc).toMatchObject({ goal: 'more', car: { engine: { redline_rpm: 2500 } } });
  });

  it('keeps what another field had held back and what was taken with it', () => {
    const store = fresh();
    store.getState().set('car.engine.lowest_rpm', 7500);
    store.getState().begin();
    for (const v of [8200, 82_000]) store.getState().set('car.engine.redline_rpm', v);
    expect(store.getState().doc.car.engine).toMatchObject({ lowest_rpm: 7500, redline_rpm: 8200 });
  });

  it('goes back with its mark where a text that is no figure follows its first digits', () => {
    const store = fresh();
    store.getState().begin();
    store.getState().set('car.engine.redline_rpm', 2500);
    expect(store.getState().doc.marks['engine.redline_rpm']).toBe('entered');
    store.getState().back();
    expect(store.getState().doc).toBe(doc);
  });

  it('keeps what was wrong with a change until something is taken', () => {
    const store = fresh();
    const issue = store.getState().change((d) => ({ ...d, air: { ...d.air, lossFactor: 9 } }));
    expect(issue).toMatchObject({ path: 'air.lossFactor', wanted: { kind: 'most', bound: 4 } });
    expect(store.getState().late).toEqual(issue);
    store.getState().set('car.engine.idle_rpm', 900);
    expect(store.getState().late).toBeNull();
    store.getState().change((d) => ({ ...d, air: { ...d.air, lossFactor: 9 } }));
    store.getState().undo();
    expect(store.getState().late).toBeNull();
  });
});

describe('undo', () => {
  it('takes a burst of typing in one field as one step, and redo brings it back', () => {
    const store = fresh();
    for (const v of [5, 6, 7]) {
      clock += 100;
      store.getState().set('car.engine.idle_rpm', 700 + v);
    }
    clock += 5000;
    store.getState().set('car.engine.idle_rpm', 900);
    store.getState().undo();
    expect(store.getState().doc.car.engine.idle_rpm).toBe(707);
    store.getState().undo();
    expect(store.getState().doc.car.engine.idle_rpm).toBe(750);
    store.getState().undo();
    store.getState().redo();
    store.getState().redo();
    expect(store.getState().doc.car.engine.idle_rpm).toBe(900);
  });
});

describe('a conflict', () => {
  const theirs: StoredJob = { ...job, version: 5, doc: withValue(doc, 'car.engine.idle_rpm', 1000) };
  const inConflict = (): JobStore => {
    const store = fresh();
    store.getState().set('car.engine.idle_rpm', 850);
    store.setState({ save: 'conflict', theirs });
    return store;
  };

  it('keeping mine saves it over the newer version', () => {
    const store = inConflict();
    store.getState().keepMine();
    expect(store.getState()).toMatchObject({ version: 5, save: 'unsaved', theirs: null });
    expect(store.getState().doc.car.engine.idle_rpm).toBe(850);
  });

  it('taking theirs leaves mine in undo', () => {
    const store = inConflict();
    store.getState().takeTheirs();
    expect(store.getState().doc.car.engine.idle_rpm).toBe(1000);
    store.getState().undo();
    expect(store.getState().doc.car.engine.idle_rpm).toBe(850);
  });

  it('stays a conflict while typing goes on', () => {
    const store = inConflict();
    store.getState().set('car.engine.idle_rpm', 860);
    expect(store.getState().save).toBe('conflict');
  });
});

it('knows the first thing wrong with a document', () => {
  expect(firstIssue(doc, null)).toBeNull();
  expect(
    firstIssue(
      withValue(
        doc,
        'air.parts',
        doc.air.parts.filter((p) => p.type !== 'opening'),
      ),
      doc,
    ),
  ).toMatchObject({ path: 'air.parts' });
  expect(firstIssue(withValue(doc, 'car.ve', { rpm: [2000, 1000], value: [0.8, 0.8] }), doc)!.message).toMatch(/rise/);
});

it('a figure outside of a bound drawn since keeps nothing else from being changed, and may be mended', () => {
  const old = withValue(doc, 'car.engine.redline_rpm', 40_000);
  const told = { path: 'car.engine.redline_rpm', message: 'too fast' };
  const store = createJobStore({ ...job, doc: old, amiss: [told] }, { stops: [] }, () => 0);
  expect(store.getState().amiss).toEqual([{ ...told, value: 40_000 }]);
  const { set, change } = store.getState();
  set('car.engine.idle_rpm', 870);
  expect(change((d) => ({ ...d, name: 'named anew' }))).toBeNull();
  expect(store.getState()).toMatchObject({ save: 'unsaved', pending: {}, late: null, doc: { name: 'named anew' } });
  expect(store.getState().doc.car.engine).toMatchObject({ redline_rpm: 40_000, idle_rpm: 870 });
  set('car.engine.redline_rpm', 41_000);
  expect(Object.keys(store.getState().pending)).toEqual(['car.engine.redline_rpm']);
  set('car.engine.redline_rpm', 7000);
  expect(store.getState()).toMatchObject({ pending: {} });
  expect(store.getState().doc.car.engine.redline_rpm).toBe(7000);
  // Once mended it is not undone: no server would take it any more.
  store.getState().undo();
  expect(store.getState()).toMatchObject({ late: { path: 'car.engine.redline_rpm' } });
  expect(store.getState().doc.car.engine.redline_rpm).toBe(7000);
});
