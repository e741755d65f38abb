const ts = require('typescript');

// A loader for the bundler: Ant Design's rules come with the app as one stylesheet (`zeroRuntime` in src/ui/theme/tokens.ts),
// so the functions that would write the same rules while a page runs are dead weight in every script. In each of its hooks
// (`genStyleHooks(name, rules, variables, …)`) the rules give way to an empty list; what wrote them is then unused and falls
// away in minifying. The variables of the theme are still made by the hook and stay.
const HOOKS = new Set(['genStyleHooks', 'genSubStyleComponent', 'genComponentStyleHook']);

/** The same module with no rules in its style hooks; a module without such a hook comes back as it was. */
function withoutStyleRules(source) {
  if (![...HOOKS].some((name) => source.includes(name))) return source;
  const file = ts.createSourceFile('style.js', source, ts.ScriptTarget.Latest, true, ts.ScriptKind.JS);
  const rules = [];
  const visit = (node) => {
    if (ts.isCallExpression(node) && ts.isIdentifier(node.expression) && HOOKS.has(node.expression.text) && node.arguments[1])
      rules.push(node.arguments[1]);
    else ts.forEachChild(node, visit);
  };
  visit(file);
  // From the end, so that what is still to be replaced keeps its place.
  return rules.reduceRight((text, { pos, end }) => `${text.slice(0, pos)} () => []${text.slice(end)}`, source);
}

module.exports = withoutStyleRules;
