/** @jest-environment jsdom */
import * as schemas from '@/core/documents/schemas';
import type { StoredJob } from '@/core/documents/job';
import { presetJob } from '@/core/job/presets';
import { giveChecks } from '@/ui/checks';
import { autosave } from './autosave';
import { createJobStore } from './store';
import { differingPaths } from './paths';
import { rememberUndo } from './undo-memory';

const doc = presetJob('Test car', 'straight six, 2.9 L');
const job: StoredJob = { id: 'job-1', number: 7, version: 3, savedAt: '2026-04-18T09:00:00Z', archived: false, doc };
const answers: (() => Promise<Response>)[] = [];
const sent: { version: number }[] = [];
const answer = (status: number, body: unknown) =>
  answers.push(() => Promise.resolve({ ok: status < 300, status, json: () => Promise.resolve(body) } as Response));
const saved = (version: number) => answer(200, { version, savedAt: '2026-04-18T10:00:00Z', findings: { stops: [] } });

beforeEach(() => {
  giveChecks(schemas);
  jest.useFakeTimers();
  localStorage.clear();
  answers.length = 0;
  sent.length = 0;
  globalThis.fetch = ((_url: string, init: RequestInit) => {
    sent.push(JSON.parse(init.body as string) as { version: number });
    const next = answers.shift();
    return next ? next() : Promise.reject(new Error('no server'));
  }) as typeof fetch;
});
afterEach(() => jest.useRealTimers());

const begin = () => {
  const store = createJobStore(job, { stops: [] }, () => 0);
  return { store, stop: autosave(store) };
};
const pass = (ms: number) => jest.advanceTimersByTimeAsync(ms);

it('saves once typing has settled, with the version it knows', async () => {
  const { store } = begin();
  saved(4);
  store.getState().set('car.engine.idle_rpm', 800);
  store.getState().set('car.engine.idle_rpm', 810);
  await pass(300);
  expect(sent).toHaveLength(0);
  await pass(300);
  expect(sent).toHaveLength(1);
  expect(sent[0]!.version).toBe(3);
  expect(store.getState()).toMatchObject({ save: 'saved', version: 4 });
  expect(localStorage.getItem('vanner-draft-job-1')).toBeNull();
});

it('keeps what was typed while the server is away, tries again, and saves when it is back', async () => {
  const { store } = begin();
  store.getState().set('car.engine.idle_rpm', 800);
  await pass(600);
  expect(store.getState().save).toBe('away');
  expect(localStorage.getItem('vanner-draft-job-1')).toContain('800');
  answer(503, { error: 'database_away' });
  await pass(2100);
  expect(store.getState().save).toBe('away');
  saved(4);
  await pass(2100);
  expect(store.getState().save).toBe('saved');
  expect(store.getState().doc.car.engine.idle_rpm).toBe(800);
});

it('shows a conflict with the newer version in hand', async () => {
  const { store } = begin();
  const elsewhere = (idle_rpm: number) => ({ ...job.doc, car: { ...job.doc.car, engine: { ...job.doc.car.engine, idle_rpm } } });
  answer(409, { current: { ...job, version: 9, doc: elsewhere(900) } });
  store.getState().set('car.engine.idle_rpm', 800);
  await pass(600);
  expect(store.getState()).toMatchObject({ save: 'conflict', theirs: { version: 9 } });
  await pass(10_000);
  expect(sent).toHaveLength(1);
  saved(10);
  store.getState().keepMine();
  await pass(600);
  expect(sent[1]!.version).toBe(9);
});

it('merges what another window changed elsewhere in the document, saves both, and can undo it', async () => {
  const { store } = begin();
  const theirs = { ...job.doc, car: { ...job.doc.car, engine: { ...job.doc.car.engine, redline_rpm: 7100 } } };
  answer(409, { current: { ...job, version: 9, doc: theirs } });
  store.getState().set('car.engine.idle_rpm', 800);
  await pass(600);
  saved(10);
  await pass(600);
  expect(store.getState()).toMatchObject({ save: 'saved', version: 10, theirs: null });
  expect(store.getState().doc.car.engine).toMatchObject({ idle_rpm: 800, redline_rpm: 7100 });
  expect(sent.at(-1)).toMatchObject({ version: 9, doc: { car: { engine: { idle_rpm: 800, redline_rpm: 7100 } } } });
});

it('asks only about what both changed: the rest of both is in either choice', async () => {
  const { store } = begin();
  const theirs = { ...job.doc, car: { ...job.doc.car, engine: { ...job.doc.car.engine, idle_rpm: 900, redline_rpm: 7100 } } };
  answer(409, { current: { ...job, version: 9, doc: theirs } });
  store.getState().set('car.engine.idle_rpm', 800);
  await pass(600);
  expect(store.getState().save).toBe('conflict');
  expect(store.getState().doc.car.engine).toMatchObject({ idle_rpm: 800, redline_rpm: 7100 });
  expect(differingPaths(store.getState().doc, store.getState().theirs!.doc)).toEqual(['car.engine.idle_rpm']);
});

it('undo lives on over a reload, but not onto another state of the document', async () => {
  const { store } = begin();
  const forget = rememberUndo(store);
  store.getState().set('car.engine.idle_rpm', 800);
  saved(4);
  await pass(600);
  forget();
  const again = createJobStore({ ...job, version: 4, doc: store.getState().doc }, store.getState().findings, () => 0);
  rememberUndo(again)();
  again.getState().undo();
  expect(again.getState().doc.car.engine.idle_rpm).toBe(job.doc.car.engine.idle_rpm);
  const other = createJobStore({ ...job, version: 5 }, store.getState().findings, () => 0);
  rememberUndo(other)();
  expect(other.getState().past).toEqual([]);
});

it('goes on with what was typed while a save was under way', async () => {
  const { store } = begin();
  let finish: (() => void) | undefined;
  answers.push(
    () =>
      new Promise(
        (resolve) =>
          (finish = () =>
            resolve({
              ok: true,
              status: 200,
              json: () => Promise.resolve({ version: 4, savedAt: '', findings: { stops: [] } }),
            } as Response)),
      ),
  );
  store.getState().set('car.engine.idle_rpm', 800);
  await pass(600);
  store.getState().set('car.engine.lowest_rpm', 1400);
  saved(5);
  finish!();
  await pass(700);
  expect(sent).toHaveLength(2);
  expect(sent[1]!.version).toBe(4);
  expect(store.getState().save).toBe('saved');
});

it('brings back a draft left by a closed tab; one of an older version is a conflict, not a loss', async () => {
  const draft = { ...doc, name: 'From the draft' };
  localStorage.setItem('vanner-draft-job-1', JSON.stringify({ version: 3, doc: draft }));
  saved(4);
  const { store } = begin();
  expect(store.getState().doc.name).toBe('From the draft');
  await pass(600);
  expect(store.getState().save).toBe('saved');
  localStorage.setItem('vanner-draft-job-1', JSON.stringify({ version: 2, doc: draft }));
  const other = begin().store;
  expect(other.getState()).toMatchObject({ save: 'conflict', theirs: { version: 3 } });
});

it('ignores a draft that is no document', () => {
  localStorage.setItem('vanner-draft-job-1', '{"version":3,"doc":{"name":""}}');
  expect(begin().store.getState().save).toBe('saved');
  localStorage.setItem('vanner-draft-job-1', 'not json');
  expect(begin().store.getState().save).toBe('saved');
});

it('says why the server refused a document', async () => {
  const { store } = begin();
  answer(422, { message: 'car.engine: not valid' });
  store.getState().set('car.engine.idle_rpm', 800);
  await pass(600);
  expect(store.getState()).toMatchObject({ save: 'refused', refusal: 'car.engine: not valid' });
});

it('takes a newer version that is word for word its own for the save whose answer was lost', async () => {
  const { store } = begin();
  const mine = {
    ...doc,
    car: { ...doc.car, engine: { ...doc.car.engine, idle_rpm: 800 } },
    marks: { 'engine.idle_rpm': 'entered' as const },
  };
  const findings = { stops: [{ stop: 'car' }] };
  answer(409, { current: { ...job, version: 4, doc: mine }, findings });
  store.getState().set('car.engine.idle_rpm', 800);
  await pass(600);
  expect(store.getState()).toMatchObject({ save: 'saved', version: 4, theirs: null, findings });
});

it('a draft that was saved after all is no conflict, whatever the order of its keys', () => {
  const marks = { 'engine.idle_rpm': 'entered' as const, fuel: 'entered' as const };
  const turned = { fuel: 'entered' as const, 'engine.idle_rpm': 'entered' as const };
  localStorage.setItem('vanner-draft-job-1', JSON.stringify({ version: 2, doc: { ...doc, marks } }));
  const store = createJobStore({ ...job, doc: { ...doc, marks: turned } }, { stops: [] }, () => 0);
  autosave(store);
  expect(store.getState()).toMatchObject({ save: 'saved', theirs: null });
  expect(localStorage.getItem('vanner-draft-job-1')).toBeNull();
});

it('a page that was read before the last save was kept shows what was kept, and goes on from its version', async () => {
  const first = begin();
  saved(4);
  first.store.getState().set('car.engine.idle_rpm', 840);
  await pass(600);
  first.stop();
  expect(localStorage.getItem('vanner-draft-job-1')).toBeNull();
  // The reload asked for the job a moment too early: it came as version 3.
  const again = begin();
  expect(again.store.getState()).toMatchObject({ save: 'saved', version: 4, doc: { car: { engine: { idle_rpm: 840 } } } });
  again.stop();
  // Read later, somebody else's newer version stands.
  const newer = createJobStore({ ...job, version: 5 }, { stops: [] }, () => 0);
  autosave(newer)();
  expect(newer.getState()).toMatchObject({ version: 5, doc: { car: { engine: { idle_rpm: doc.car.engine.idle_rpm } } } });
});

it('a draft that is at odds stays at odds over a reload, typed on in between or not', async () => {
  localStorage.setItem('vanner-draft-job-1', JSON.stringify({ version: 3, doc: { ...doc, name: 'Mine' } }));
  const stored: StoredJob = { ...job, version: 5, doc: { ...doc, name: 'Theirs' } };
  const store = createJobStore(stored, { stops: [] }, () => 0);
  const stop = autosave(store);
  expect(store.getState().save).toBe('conflict');
  store.getState().set('car.engine.idle_rpm', 810);
  stop();
  await pass(0);
  const again = createJobStore(stored, { stops: [] }, () => 0);
  autosave(again);
  expect(again.getState()).toMatchObject({ save: 'conflict', theirs: { version: 5 } });
  expect(again.getState().doc.car.engine.idle_rpm).toBe(810);
  await pass(1000);
  expect(sent).toHaveLength(0);
});

describe('before the checks are here', () => {
  beforeEach(() => giveChecks(null));

  it('what is typed waits for them, in its order, and is saved even by a page that is left at once', async () => {
    const { store, stop } = begin();
    saved(4);
    store.getState().set('car.engine.idle_rpm', 800);
    store.getState().set('car.engine.redline_rpm', 7100);
    store.getState().undo();
    expect(store.getState()).toMatchObject({ waiting: 3, doc: { car: { engine: { idle_rpm: doc.car.engine.idle_rpm } } } });
    const leaving = new Event('beforeunload', { cancelable: true });
    window.dispatchEvent(leaving);
    expect(leaving.defaultPrevented).toBe(true);
    stop();
    jest.useRealTimers();
    await store.getState().settled();
    await new Promise((done) => setTimeout(done, 0));
    expect(store.getState().waiting).toBe(0);
    expect(store.getState().doc.car.engine).toMatchObject({ idle_rpm: 800, redline_rpm: doc.car.engine.redline_rpm });
    expect(sent).toHaveLength(1);
  });

  it('a value that cannot be stays pending, a change that cannot be is told, and the document is as it was', async () => {
    const { store } = begin();
    jest.useRealTimers();
    store.getState().set('car.engine.idle_rpm', 5);
    expect(store.getState().change((d) => ({ ...d, name: '' }))).toBeNull();
    await store.getState().settled();
    expect(store.getState()).toMatchObject({ pending: { 'car.engine.idle_rpm': { value: 5 } }, late: { path: 'name' }, save: 'saved' });
    expect(store.getState().doc).toEqual(doc);
    store.getState().set('name', 'Another');
    expect(store.getState().late).toBeNull();
  });

  it('a draft of this browser is taken up once they are here', async () => {
    localStorage.setItem('vanner-draft-job-1', JSON.stringify({ version: 3, doc: { ...doc, name: 'Mine' } }));
    const { store } = begin();
    expect(store.getState().doc.name).toBe('Test car');
    store.getState().set('car.engine.idle_rpm', 805);
    jest.useRealTimers();
    await store.getState().settled();
    expect(store.getState().doc).toMatchObject({ name: 'Mine', car: { engine: { idle_rpm: 805 } } });
  });

  it('on a line that hangs what was typed is kept in this browser and sent after a moment, for the server to check', async () => {
    giveChecks(new Promise(() => {}));
    const { store } = begin();
    store.getState().set('car.engine.idle_rpm', 812);
    await pass(3100);
    expect(store.getState()).toMatchObject({ waiting: 0, doc: { car: { engine: { idle_rpm: 812 } } } });
    expect(localStorage.getItem('vanner-draft-job-1')).toContain('812');
    saved(4);
    await pass(600);
    expect(sent).toHaveLength(1);
  });
});
