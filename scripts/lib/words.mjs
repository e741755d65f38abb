/** Every text that a person can see, read out of the source: for reading through, for translating, and for a test that holds the words of the trade. */
import { readdirSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import ts from 'typescript';

/** Attributes whose text is seen or heard. */
const SEEN = new Set([
  'label',
  'title',
  'placeholder',
  'aria-label',
  'aria-valuetext',
  'alt',
  'okText',
  'cancelText',
  'extra',
  'answer',
  'reason',
  'name',
  'content',
  'empty',
  'help',
  'tooltip',
]);
/** Properties of objects whose text is seen. */
const SHOWN = new Set([
  'label',
  'title',
  'text',
  'note',
  'hint',
  'head',
  'name',
  'message',
  'what',
  'cure',
  'fits',
  'needs',
  'ask',
  'answer',
  'reason',
  'description',
  'summary',
  'meaning',
]);

const isSentence = (text) => /[a-zà-ÿ]{2,}\s+\S|^[A-Z][a-zà-ÿ]{2,}$|^[a-zà-ÿ]{3,}$/.test(text);

function sources(folder) {
  return readdirSync(folder, { withFileTypes: true }).flatMap((e) => {
    const path = join(folder, e.name);
    if (e.isDirectory()) return sources(path);
    return /\.tsx?$/.test(e.name) && !/\.(test|d)\.tsx?$/.test(e.name) ? [path] : [];
  });
}

/** A template as one reads it: what is put in stands as {name}. */
function templateText(node, source) {
  return (
    node.head.text +
    node.templateSpans.map((s) => `{${s.expression.getText(source).replace(/\s+/g, ' ').slice(0, 40)}}${s.literal.text}`).join('')
  );
}

/** Names of classes, addresses and the like are no text. */
function isCode(node) {
  for (let at = node.parent; at; at = at.parent) {
    if (ts.isJsxAttribute(at)) return !SEEN.has(at.name.getText());
    if (ts.isImportDeclaration(at) || ts.isExportDeclaration(at) || ts.isTypeNode(at) || ts.isElementAccessExpression(at)) return true;
    if (
      ts.isCallExpression(at) &&
      /\b(test|fetch|send|getElementById|querySelector|matchMedia|useQueryState|RegExp|replace|split|join|includes|startsWith|set|DocField)$/.test(
        at.expression.getText(),
      )
    )
      return true;
    if (ts.isStatement(at)) return false;
  }
  return false;
}

/** Texts of one file: where each stands, and what it says. */
function textsOf(path, root) {
  const source = ts.createSourceFile(
    path,
    readFileSync(path, 'utf8'),
    ts.ScriptTarget.Latest,
    true,
    path.endsWith('x') ? ts.ScriptKind.TSX : ts.ScriptKind.TS,
  );
  const found = [];
  const add = (node, text) => {
    const said = text.replace(/\s+/g, ' ').trim();
    if (said === '' || !/[A-Za-zà-ÿ]{2}/.test(said)) return;
    found.push({ file: relative(root, path), line: source.getLineAndCharacterOfPosition(node.getStart(source)).line + 1, text: said });
  };
  const visit = (node) => {
    if (ts.isJsxText(node)) add(node, node.text);
    else if (ts.isStringLiteralLike(node) && !ts.isExpressionStatement(node.parent) && !isCode(node)) {
      const { parent } = node;
      const named = ts.isPropertyAssignment(parent) && SHOWN.has(parent.name.getText(source));
      const seen = ts.isJsxAttribute(parent) || path.endsWith('/messages.ts');
      if (seen || named ? isSentence(node.text) : /\S\s+\S/.test(node.text) && isSentence(node.text)) add(node, node.text);
    } else if (ts.isTemplateExpression(node) && !isCode(node)) {
      const text = templateText(node, source);
      if (/[A-Za-zà-ÿ]{2,}\s/.test(text.replace(/\{[^}]*\}/g, ''))) add(node, text);
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}

/** Where visible text stands, a feature at a time. */
const PLACES = ['src/features', 'src/ui', 'src/app', 'src/core', 'src/server'];

/** Every visible text of the project, in the order of its files. */
export function visibleTexts(root) {
  return PLACES.flatMap((place) =>
    sources(join(root, place))
      .toSorted()
      .flatMap((path) => textsOf(path, root)),
  );
}

/** The feature, or the part of the house, that a file belongs to. */
export const placeOf = (file) =>
  file
    .split('/')
    .slice(1, file.startsWith('src/features/test/') ? 4 : 3)
    .join('/');
