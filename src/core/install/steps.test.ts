import fc from 'fast-check';
import { measuredJob } from '../../../test/fitting';
import type { OwnStep } from '../documents/install';
import { carKind, gatesOf, jobSteps, movedOwn, STAGES, stepFacts, usualSteps, withOwn, type StepFacts } from './steps';

const FACTS: StepFacts = { controls: 'cable', bored: true, adapter: false, coolant: true, boosted: false };
const own = (id: string, stage: OwnStep['stage'], after: string | null, text = id): OwnStep => ({ id: `own-${id}`, stage, after, text });
const ids = (list: readonly { id: string }[]): string[] => list.map((s) => s.id);

const anyFacts = fc.record({
  controls: fc.constantFrom('cable', 'electronic-analogue', 'electronic-digital'),
  bored: fc.boolean(),
  adapter: fc.boolean(),
  coolant: fc.boolean(),
  boosted: fc.boolean(),
}) as fc.Arbitrary<StepFacts>;

describe('the procedure', () => {
  it('on every kind of car: no step twice, stages in order, every check cured by a step that is on the sheet and comes before it', () =>
    fc.assert(
      fc.property(anyFacts, (facts) => {
        const steps = usualSteps(facts);
        expect(new Set(ids(steps)).size).toBe(steps.length);
        const order = steps.map((s) => STAGES.findIndex((x) => x.stage === s.stage));
        expect(order).toEqual([...order].sort((a, b) => a - b));
        for (const gate of gatesOf(steps)) {
          expect(gate.cures.length).toBeGreaterThan(0);
          for (const id of gate.cures) {
            const cure = steps.findIndex((s) => s.id === id);
            expect([gate.id, cure >= 0]).toEqual([gate.id, true]);
            expect(cure).toBeLessThan(steps.findIndex((s) => s.id === gate.id));
          }
        }
      }),
    ));

  it('has six checks before the start, and among them that it shuts by itself, whatever moves the blade', () =>
    fc.assert(
      fc.property(anyFacts, (facts) => {
        const steps = usualSteps(facts);
        const gates = steps.filter((s) => s.gate);
        expect(gates).toHaveLength(6);
        expect(gates.some((s) => /snaps shut by itself/.test(s.text))).toBe(true);
        expect(gates.every((s) => steps.indexOf(s) < steps.findIndex((x) => x.id === 'start'))).toBe(true);
      }),
    ));

  it.each<[keyof StepFacts, string[]]>([
    ['bored', ['bore']],
    ['adapter', ['adapter-on']],
    ['coolant', ['coolant-off', 'coolant-on']],
    ['boosted', ['boost-clamps']],
  ])('%s brings its own steps and no others', (fact, wanted) => {
    const without = ids(usualSteps({ ...FACTS, [fact]: false }));
    const withIt = ids(usualSteps({ ...FACTS, [fact]: true }));
    expect(withIt.filter((s) => !without.includes(s))).toEqual(wanted);
    expect(without.every((s) => withIt.includes(s))).toBe(true);
  });

  it('nobody is told to push an electronic blade, and stops are set on cables only, closed before sensor before open', () => {
    const electronic = usualSteps({ ...FACTS, controls: 'electronic-digital' });
    expect(electronic.some((s) => /by hand at the linkage/.test(s.text))).toBe(false);
    expect(ids(electronic)).not.toContain('open-stop');
    const cable = ids(usualSteps(FACTS));
    expect(
      [cable.indexOf('closed-stop'), cable.indexOf('sensor-set'), cable.indexOf('open-stop')].every(
        (n, i, all) => i === 0 || n === all[i - 1]! + 1,
      ),
    ).toBe(true);
  });

  it('what decides comes from the job', () => {
    const doc = measuredJob();
    expect(stepFacts(doc)).toEqual({ controls: 'cable', bored: true, adapter: false, coolant: false, boosted: false });
    const onPlate = measuredJob((d) => ({
      ...d,
      fit: {
        ...d.fit,
        mounting: { ...d.fit.mounting, adapter: { thickness_m: 0.02, bolt: 'M6', into: 'aluminium', unitBolt_m: null, gasket_m: 0 } },
      },
    }));
    // On a plate with a taper nothing is bored.
    expect(stepFacts(onPlate)).toMatchObject({ bored: false, adapter: true });
    expect(carKind(doc)).toBe('cable / na / single');
  });
});

describe('own steps', () => {
  const usual = usualSteps(FACTS);

  it('stand after the step they name, first in their stage without one, last in it when that step is gone', () => {
    const list = ids(withOwn(usual, [own('a', 'off', 'connectors'), own('b', 'off', null), own('c', 'off', 'never-was')]));
    expect(list[list.indexOf('own-a') - 1]).toBe('connectors');
    expect(list[list.indexOf('own-b') + 1]).toBe('connectors');
    expect(list[list.indexOf('own-c') + 1]).toBe(usual.find((s) => s.stage === 'on')!.id);
  });

  it('never change the order of the procedure itself', () => {
    const anyOwn = fc.array(
      fc.record({
        id: fc.integer({ min: 0, max: 999 }).map((n) => `own-${n}`),
        stage: fc.constantFrom(...STAGES.map((s) => s.stage)),
        after: fc.option(fc.constantFrom(...usual.map((s) => s.id), 'gone')),
        text: fc.constant('x'),
      }),
      { maxLength: 8 },
    );
    fc.assert(
      fc.property(anyOwn, (list) => {
        const unique = list.filter((o, i) => list.findIndex((x) => x.id === o.id) === i);
        const made = withOwn(usual, unique);
        expect(made.filter((s) => !s.own).map((s) => s.id)).toEqual(ids(usual));
        expect(made).toHaveLength(usual.length + unique.length);
        const order = made.map((s) => STAGES.findIndex((x) => x.stage === s.stage));
        expect(order).toEqual([...order].sort((a, b) => a - b));
      }),
    );
  });

  it('move a place within their stage and not out of it; up and down again is where they were', () => {
    const mine = [own('a', 'off', 'connectors'), own('b', 'off', 'own-a')];
    const order = (list: OwnStep[]): string[] =>
      ids(withOwn(usual, list)).filter((id) => ['connectors', 'own-a', 'own-b', 'fasteners'].includes(id));
    expect(order(mine)).toEqual(['connectors', 'own-a', 'own-b', 'fasteners']);
    const up = movedOwn(usual, mine, 'own-a', -1);
    expect(order(up)).toEqual(['own-a', 'connectors', 'own-b', 'fasteners']);
    expect(order(movedOwn(usual, up, 'own-a', 1))).toEqual(order(mine));
    expect(movedOwn(usual, up, 'own-a', -1)).toEqual(up);
    expect(order(movedOwn(usual, mine, 'own-b', -1))).toEqual(['connectors', 'own-b', 'own-a', 'fasteners']);
  });

  it('are steps of the job like any other, and no check', () => {
    const doc = measuredJob((d) => ({ ...d, install: { ...d.install, own: [own('a', 'off', 'connectors', 'Bracket first')] } }));
    const step = jobSteps(doc).find((s) => s.id === 'own-a')!;
    expect(step).toMatchObject({ own: true, text: 'Bracket first', stage: 'off' });
    expect(gatesOf(jobSteps(doc))).toHaveLength(6);
  });
});
