import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';

const withoutStyleRules = createRequire(__filename)('./without-style-rules.cjs') as (source: string) => string;
const styleOf = (name: string): string => readFileSync(`node_modules/antd/es/${name}/style/index.js`, 'utf8');

it.each(['tooltip', 'input', 'app', 'message'])('the hooks of %s keep their names and variables and lose their rules', (name) => {
  const before = styleOf(name);
  const after = withoutStyleRules(before);
  const hooks = /gen(?:StyleHooks|SubStyleComponent|ComponentStyleHook)\((\['[^\]]+\]|'[^']+'),/g;
  const names = [...before.matchAll(hooks)].map((m) => m[1]);
  expect(names.length).toBeGreaterThan(0);
  expect([...after.matchAll(new RegExp(`${hooks.source} \\(\\) => \\[\\]`, 'g'))].map((m) => m[1])).toEqual(names);
  expect(after).toMatch(/, (prepare|init)ComponentToken/);
  expect(after.length).toBeLessThan(before.length);
});

it('leaves a module without such a hook as it is', () => {
  const source = "import { x } from './y';\nexport const f = (a) => genX(a, (b) => b);\n";
  expect(withoutStyleRules(source)).toBe(source);
});

it('replaces rules told by their name, and nothing but the rules', () => {
  expect(withoutStyleRules("export default genStyleHooks('App', genBaseStyle, prepare, { a: [1] });")).toBe(
    "export default genStyleHooks('App', () => [], prepare, { a: [1] });",
  );
  expect(withoutStyleRules("genSubStyleComponent(['A', 'b'], (t, { c }) => { return [f(t, c), g()]; }, p);")).toBe(
    "genSubStyleComponent(['A', 'b'], () => [], p);",
  );
});
