/** @jest-environment node */
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';

const ROOT = join(__dirname, '../..');
// The reader is a module of the scripts' own kind: it is run as they are.
const PRINTED = execFileSync(process.execPath, ['scripts/words.mjs'], { cwd: ROOT, encoding: 'utf8', maxBuffer: 1 << 26 });
const TEXTS = PRINTED.split('\n').flatMap((line) => {
  const [where, text] = line.split('\t');
  return text === undefined ? [] : [{ where: where!, text }];
});

/** Words that a shop does not use, and what it says instead. */
const NOT_OURS: readonly (readonly [RegExp, string])[] = [
  [
    /\b(stock|new|chosen|sound|both|wrong) units?\b|\bunit’s\b|\bunits? (and car|face)\b|^unit$|\bon the unit \S/i,
    'throttle body, throttle',
  ],
  [/\b(manifold|gasket) opening\b/i, 'manifold bore, gasket bore'],
  [/\bgives out at\b/i, 'runs short from'],
  [/\bon the table\b/i, 'costs … of peak power'],
  [/\bin the way next\b/i, 'next restriction'],
  [/\bfuel per power\b/i, 'BSFC'],
  [/\bair to fuel\b/i, 'air–fuel ratio'],
  [/\bposition sensor\b(?!.*\bTPS\b)/, 'throttle position sensor (TPS)'],
  [/\bblade shuts\b(?! well)/i, 'closed seal'],
  [/\bleft for the air\b/i, 'net area'],
  [/\blip in the flow\b/i, 'step facing the flow'],
  [/\bstand-in\b/i, 'practice … (simulated)'],
  [/\bturn about\b|\bout and back\b|\btwo blocks\b/i, 'alternate (ABAB) and so on'],
  [/\bover the line\b/i, 'trap speed'],
  [/\bas driven\b/i, 'as run'],
  [/\btake (it|this job) along\b|\btake in a job\b/i, 'export job, import job'],
  [/\bpassphrase of now\b/i, 'current passphrase'],
  [/\bfind or do\b/i, 'search or run a command'],
  [/\bit may be at (least|most)\b/i, 'must be … or more'],
  [/\btoo big for its manners\b.*\S/, 'too touchy off idle'],
  [/\brange held\b/i, 'inside its own range'],
  [/\bopens nothing\b.*any more/i, 'has expired or been revoked'],
];
/** Stored values, what a maker of the API reads, and things the reading recognises are no words on a screen. */
const APART = /^src\/(core\/(stand-ins|read|units|documents)|server\/(api|db|read|demo))\/|verdict-word\.ts/;

it('every visible text can be printed for reading, from every feature', () => {
  expect(TEXTS.length).toBeGreaterThan(2000);
  for (const place of ['features/air', 'features/pick', 'features/test/strip', 'ui/shell', 'core/install'])
    expect(PRINTED).toContain(`\n== ${place}\n`);
  expect(TEXTS.map((t) => t.text)).toContain('Skip to the content');
});

it('says nothing that a shop does not say', () => {
  const found = TEXTS.filter(({ where }) => !APART.test(where)).flatMap(({ where, text }) =>
    NOT_OURS.flatMap(([wrong, better]) => (wrong.test(text) ? [`${where}: “${text.slice(0, 120)}” (better: ${better})`] : [])),
  );
  expect(found).toEqual([]);
});
