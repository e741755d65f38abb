import fc from 'fast-check';
import type { SheetEvent } from '../documents/sheet-event';
import { EMPTY_SHEET, refuseEvent, sheetState, startLocks, stepsLeft, type Gate } from './run-sheet';
import { gatesOf, usualSteps } from './steps';

const gates: Gate[] = [
  { id: 'snap', cures: ['spring', 'stops'] },
  { id: 'travel', cures: ['stops'] },
  { id: 'counted', cures: ['cover'] },
];
const steps = ['spring', 'stops', 'cover', 'start', 'relearn', 'drive-gentle', 'rules'].map((id) => ({ id }));
let n = 0;
/** An event, kept: each has an id, and its writer knew of all that came before unless said otherwise. */
const at = (more: Partial<SheetEvent> = {}) => ({ who: 'Maud', at_ms: 1000, id: `e${(n += 1)}`, device: 'phone', ...more });
const done = (step: string, more: Partial<SheetEvent> = {}): SheetEvent => ({ ...at(more), type: 'done', step });
const undone = (step: string, more: Partial<SheetEvent> = {}): SheetEvent => ({ ...at(more), type: 'undone', step, reason: 'not tight' });
const passed = (gate: string, more: Partial<SheetEvent> = {}): SheetEvent => ({ ...at(more), type: 'passed', gate });
const failed = (gate: string, more: Partial<SheetEvent> = {}): SheetEvent => ({ ...at(more), type: 'failed', gate, reason: 'hangs' });
const back = (of: SheetEvent): SheetEvent => ({ ...at(), type: 'taken back', of: of.id!, reason: 'wrong line' });
const bag = (type: 'fasteners out' | 'fasteners back', count: number): SheetEvent => ({ ...at(), type, bag: 'cover', count });
const ready = [done('spring'), done('stops'), done('cover'), passed('snap'), passed('travel'), passed('counted')];
const started = [...ready, done('start')];
const state = (events: SheetEvent[]) => sheetState(events, gates);
const locks = (events: SheetEvent[]) => startLocks(state(events), gates);
const refuse = (
  event: SheetEvent,
  events: SheetEvent[] = [],
  relearn?: { cycles: number; run_s: number; rest_s: number; band_rpm: [number, number] },
) => refuseEvent(event, { steps, gates, events, ...(relearn && { relearn }) }, 2000);

it('keeps the start locked until every check is passed', () => {
  expect(startLocks(EMPTY_SHEET, gates).map((l) => l.why)).toEqual(['check', 'check', 'check']);
  expect(locks(ready)).toEqual([]);
  expect(refuse(done('start'), ready.slice(0, 5))).toBe('locked');
  expect(refuse(done('start'), ready)).toBeNull();
});

describe('a check that failed', () => {
  const broken = [...ready, failed('snap')];

  it('reopens its cures, and the checks that hang on the same work', () => {
    expect([...state(broken).done.keys()]).toEqual(['cover']);
    expect(locks(broken)).toEqual([
      { why: 'check', gate: 'snap', reason: 'hangs' },
      { why: 'check', gate: 'travel', reason: null },
    ]);
    expect(state(broken).reopened.get('travel')!.type).toBe('failed');
  });

  it('is passed again only once each cure was done after it', () => {
    expect(refuse(passed('snap'), broken)).toBe('cure first');
    expect(refuse(passed('snap'), [...broken, done('stops')])).toBe('cure first');
    const cured = [...broken, done('stops'), done('spring')];
    expect(refuse(passed('snap'), cured)).toBeNull();
    expect(locks([...cured, passed('snap'), passed('travel')])).toEqual([]);
    // Written all the same, by an older release say, it does not count, and that is told.
    const early = passed('snap');
    expect(state([...broken, early]).setAside).toMatchObject([{ event: early, why: 'cure missing' }]);
    expect(state([...broken, early]).gates.get('snap')!.passed).toBe(false);
  });

  it('stops everything after the first start: the start is to be made again', () => {
    const stop = state([...started, failed('travel')]);
    expect(stop.stopped).toMatchObject({ gate: 'travel', reason: 'hangs', who: 'Maud' });
    expect(stop.done.has('start')).toBe(false);
    const again = [...started, failed('travel'), done('stops'), passed('snap'), passed('travel')];
    expect(locks(again)).toEqual([]);
    expect(state(again).stopped).not.toBeNull();
    expect(state([...again, done('start')]).stopped).toBeNull();
  });

  it('is not passed by who had not heard of it, whatever their clock says', () => {
    const fail = failed('counted', { device: 'tablet' });
    const known = ready.at(-1)!.id!;
    const cure = done('cover', { device: 'phone', seen: known, at_ms: 9e12 });
    const pass = passed('counted', { device: 'phone', seen: known, at_ms: 9e12 });
    const sheet = [...ready, fail, cure, pass];
    expect(state(sheet).setAside.map((s) => [s.event.type, s.why])).toEqual([
      ['done', 'did not know'],
      ['passed', 'did not know'],
    ]);
    expect(locks(sheet)).not.toEqual([]);
    // Kept, not refused: nothing that was written is lost.
    expect(refuse(pass, [...ready, fail])).toBeNull();
    // Who has heard of it counts, though the clock is years behind.
    const heard = { device: 'phone', seen: fail.id!, at_ms: 5 };
    expect(locks([...ready, fail, done('cover', heard), passed('counted', heard)])).toEqual([]);
  });

  it('of sheets of older releases the stamps tell', () => {
    const old = { device: undefined, seen: undefined };
    const fail = failed('counted', { ...old, at_ms: 5000 });
    expect(locks([...ready, fail, done('cover', { ...old, at_ms: 4000 }), passed('counted', { ...old, at_ms: 4500 })])).not.toEqual([]);
    expect(locks([...ready, fail, done('cover', { ...old, at_ms: 6000 }), passed('counted', { ...old, at_ms: 6500 })])).toEqual([]);
  });
});

it.each([
  ['undone', undone('stops')],
  ['done once more', done('stops')],
] as const)('a cure that is %s opens the checks that hang on it', (_name, event) => {
  const after = [...ready, event];
  expect(locks(after).map((l) => 'gate' in l && l.gate)).toEqual(expect.arrayContaining(['snap', 'travel']));
  expect([...state(after).reopened.keys()]).toEqual(['snap', 'travel']);
  expect(locks([...after, done('stops'), passed('snap'), passed('travel')])).toEqual([]);
});

it('a check is not passed before the work it is about', () => {
  expect(refuse(passed('snap'), [done('spring')])).toBe('cure first');
  expect(refuse(passed('snap'), [done('spring'), done('stops')])).toBeNull();
});

describe('taking back', () => {
  it('a pass or a failure leaves the check open, never as it was before', () => {
    const pass = ready[3]!;
    expect(locks([...ready, back(pass)])).toMatchObject([{ why: 'check', gate: 'snap', reason: null }]);
    const fail = failed('counted');
    const after = [...ready, fail, back(fail)];
    expect(state(after).gates.has('counted')).toBe(false);
    expect(locks(after).length).toBe(1);
  });

  it('a count goes back to the one before; a note and a photo go', () => {
    const wrong = bag('fasteners back', 5);
    expect(state([bag('fasteners out', 6), bag('fasteners back', 6), wrong]).bags.get('cover')).toEqual({ out: 6, back: 5 });
    expect(state([bag('fasteners out', 6), bag('fasteners back', 6), wrong, back(wrong)]).bags.get('cover')).toEqual({ out: 6, back: 6 });
    const note: SheetEvent = { ...at(), type: 'note', step: 'stops', text: 'x' };
    const photo: SheetEvent = { ...at(), type: 'photo', step: 'stops', hash: 'h' };
    const left = state([note, photo, back(note), back(photo)]);
    expect([left.notes.get('stops'), left.photos.get('stops')]).toEqual([[], []]);
  });

  it('needs a reason and something to take back', () => {
    expect(refuse({ ...back(ready[0]!), reason: ' ' } as SheetEvent, ready)).toBe('no reason');
    expect(refuse(back(done('cover')), ready)).toBe('unknown event');
    expect(refuse(back(ready[0]!), ready)).toBeNull();
  });
});

it('fasteners that are not all back keep it locked, and the count can be put right', () => {
  const short = [...ready, bag('fasteners out', 6), bag('fasteners back', 5)];
  expect(locks(short)).toEqual([{ why: 'fasteners', bag: 'cover', out: 6, back: 5 }]);
  expect(locks([...short, bag('fasteners out', 5)])).toEqual([]);
  expect(refuse(passed('counted'), short)).toBe('bags open');
  expect(refuse(done('rules'), short)).toBe('bags open');
  const back = [...ready, bag('fasteners out', 6), bag('fasteners back', 6)];
  expect(refuse(passed('counted'), back)).toBeNull();
  expect(refuse(done('rules'), back)).not.toBe('bags open');
});

it('relearn and drive wait for the first start, and a relearn that is not clean for a reason', () => {
  const plan = { cycles: 1, run_s: 10, rest_s: 5, band_rpm: [650, 850] as [number, number] };
  expect(refuse(done('drive-gentle'), ready.slice(0, 3))).toBe('locked');
  expect(refuse(done('relearn'), ready)).toBe('not started');
  expect(refuse(done('drive-gentle'), started)).toBeNull();
  expect(refuse(done('relearn'), started, plan)).toBe('relearn not clean');
  expect(refuse({ ...done('relearn'), reason: 'by the maker’s tool' } as SheetEvent, started, plan)).toBeNull();
});

it.each([
  [passed('snap', { who: ' ' }), 'no name'],
  [{ ...failed('snap'), reason: '' } as SheetEvent, 'no reason'],
  [{ ...undone('stops'), reason: ' ' } as SheetEvent, 'no reason'],
  [done('teleport'), 'unknown step'],
  [passed('vibes'), 'unknown check'],
  [bag('fasteners back', -1), 'bad count'],
  [bag('fasteners back', 2.5), 'bad count'],
] as [SheetEvent, string][])('refuses %j: %s', (event, why) => {
  expect(refuse(event)).toBe(why);
});

it('a clock that is wrong is no reason to refuse', () => {
  expect(refuse(done('spring', { at_ms: 9e12 }))).toBeNull();
});

/**
 * Sheets of several devices that each write without a connection and send in lumps, in any order between them, some of it twice:
 * with the real procedure, and a server that refuses as ours does.
 */
describe('many devices that come and go', () => {
  const real = usualSteps({ controls: 'cable', bored: true, adapter: false, coolant: false, boosted: false });
  const realGates = gatesOf(real);
  const kind = fc.constantFrom<'done' | 'undone' | 'passed' | 'failed' | 'back' | 'start' | 'work'>(
    'done',
    'done',
    'passed',
    'passed',
    'passed',
    'failed',
    'undone',
    'back',
    'start',
    'work',
  );
  const act = fc.record({
    device: fc.nat({ max: 2 }),
    kind,
    pick: fc.nat({ max: 99 }),
    sends: fc.boolean(),
    clock: fc.integer({ min: -1e9, max: 1e9 }),
  });

  it('a hundred sheets: the lock is never open while a check’s last word is a failure, and nothing kept counts twice', () =>
    fc.assert(
      fc.property(fc.array(act, { minLength: 20, maxLength: 120 }), (acts) => {
        const kept: SheetEvent[] = [];
        const queues: SheetEvent[][] = [[], [], []];
        const heard = [0, 0, 0];
        const take = (e: SheetEvent): void => {
          if (kept.some((k) => k.id === e.id)) return;
          if (refuseEvent(e, { steps: real, gates: realGates, events: kept }, 0) === null) kept.push(e);
        };
        acts.forEach(({ device, kind: what, pick, sends, clock }, i) => {
          const base = {
            who: `D${device}`,
            device: `D${device}`,
            id: `x${i}`,
            at_ms: 1e10 + clock,
            seen: kept[heard[device]! - 1]?.id ?? null,
          };
          const gate = realGates[pick % realGates.length]!;
          const cure = gate.cures[pick % gate.cures.length]!;
          const queue = queues[device]!;
          if (what === 'work')
            for (const g of realGates)
              for (const [k, c] of g.cures.entries()) queue.push({ ...base, id: `x${i}-${g.id}${k}`, type: 'done', step: c });
          else if (what === 'done') queue.push({ ...base, type: 'done', step: cure });
          else if (what === 'undone') queue.push({ ...base, type: 'undone', step: cure, reason: 'r' });
          else if (what === 'passed') for (const g of realGates) queue.push({ ...base, id: `x${i}-${g.id}`, type: 'passed', gate: g.id });
          else if (what === 'failed') queue.push({ ...base, type: 'failed', gate: gate.id, reason: 'r' });
          else if (what === 'start') queue.push({ ...base, type: 'done', step: 'start' });
          else if (kept.length > 0) queue.push({ ...base, type: 'taken back', of: kept[pick % kept.length]!.id!, reason: 'r' });
          if (!sends) return;
          // The connection may break after any of them: what was sent is sent again.
          const n = pick % (queue.length + 1);
          queue.slice(0, n).forEach(take);
          if (pick % 3 !== 0) queue.splice(0, n);
          heard[device] = kept.length;
        });
        queues.flat().forEach(take);
        for (let cut = 0; cut <= kept.length; cut += 1) {
          const part = kept.slice(0, cut);
          const s = sheetState(part, realGates);
          const aside = new Set(s.setAside.map((a) => a.event));
          const taken = new Set(part.flatMap((e) => (e.type === 'taken back' ? [e.of] : [])));
          if (startLocks(s, realGates).length > 0) continue;
          for (const g of realGates) {
            const words = part.filter(
              (e) => (e.type === 'passed' || e.type === 'failed') && e.gate === g.id && !aside.has(e) && !taken.has(e.id!),
            );
            expect(words.at(-1)?.type).toBe('passed');
          }
        }
        expect(new Set(kept.map((e) => e.id)).size).toBe(kept.length);
        expect(stepsLeft(real, sheetState(kept, realGates))).toBeGreaterThanOrEqual(0);
      }),
      { numRuns: 100 },
    ));

  it('and it does open: a sheet worked through in order by one device', () => {
    const events: SheetEvent[] = [];
    for (const s of real.filter((x) => x.stage !== 'after')) events.push(s.gate ? passed(s.id) : done(s.id));
    expect(startLocks(sheetState(events, realGates), realGates)).toEqual([]);
  });
});
