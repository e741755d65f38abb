import { guessChannels } from './guess';
import { factsOf } from './facts';
import { TableReader } from './reader';
import { sideBySide, type RunColumns } from './side-by-side';

/** A table's runs, each as its label and what its columns are, by their place in the file. */
function runsOf(head: readonly string[], column: (name: string, row: number) => number): [string, Record<number, string>][] {
  const rows = Array.from({ length: 40 }, (_, r) => head.map((name) => column(name, r).toFixed(2)).join(','));
  const reader = new TableReader();
  reader.push(new TextEncoder().encode([head.join(','), ...rows, ''].join('\n')));
  const read = reader.finish();
  if (read.refused !== null) throw new Error(read.refused);
  const channels = guessChannels(read.columns.map(factsOf)).map((g, i) => ({ column: i, quantity: g.quantity, unit: g.unit }));
  return sideBySide(read.columns, channels).map((r: RunColumns) => [
    r.label,
    Object.fromEntries(r.channels.filter((c) => c.quantity !== 'other').map((c) => [c.column, c.quantity])),
  ]);
}
const figures = (name: string, row: number): number =>
  /rpm/i.test(name)
    ? 2000 + 100 * row
    : /power/i.test(name)
      ? 60 + 2 * row
      : /torque/i.test(name)
        ? 200 - row
        : /time/i.test(name)
          ? 0.1 * row
          : 1;

it.each([
  ['in front', ['Run 1 RPM', 'Run 1 Power (kW)', 'Run 2 RPM', 'Run 2 Power (kW)'], ['run 1', 'run 2']],
  ['behind', ['RPM (run 3)', 'Power (run 3)', 'RPM (run 7)', 'Power (run 7)'], ['run 3', 'run 7']],
  ['as a number', ['RPM 1', 'Power 1', 'RPM 2', 'Power 2'], ['run 1', 'run 2']],
  ['by standing again', ['RPM', 'Power', 'RPM', 'Power'], ['run 1', 'run 2']],
])('two runs whose columns are told apart %s are two, each with its own columns', (_, head, labels) => {
  const runs = runsOf(head, figures);
  expect(runs.map(([label]) => label.toLowerCase())).toEqual(labels);
  expect(runs.map(([, own]) => own)).toEqual([
    { 0: 'rpm', 1: 'power' },
    { 2: 'rpm', 3: 'power' },
  ]);
});

it('what has no mark belongs to every run', () => {
  const runs = runsOf(['RPM', 'Power run 1', 'Torque run 1', 'Power run 2', 'Torque run 2'], figures);
  expect(runs).toEqual([
    ['run 1', { 0: 'rpm', 1: 'power', 2: 'torque' }],
    ['run 2', { 0: 'rpm', 3: 'power', 4: 'torque' }],
  ]);
});

it.each([
  ['sensors that are numbered', ['RPM', 'Power (kW)', 'EGT 1', 'EGT 2', 'EGT 3']],
  ['runs that have other columns', ['Run 1 RPM', 'Run 1 Power', 'Run 2 RPM', 'Run 2 Torque']],
  ['a group without an engine speed', ['RPM', 'Power', 'Boost 1', 'Lambda 1', 'Boost 2', 'Lambda 2']],
  ['one of each', ['Time', 'RPM', 'Power', 'Torque']],
])('%s are one run, with every column as it was', (_, head) => {
  const runs = runsOf(head, figures);
  expect(runs).toHaveLength(1);
  expect(runs[0]![0]).toBe('');
  expect(runs[0]![1]).toMatchObject({ [head.findIndex((h) => /rpm/i.test(h))]: 'rpm' });
});
