/** `npm run verify [-- PATH… --require-all]`: runs reference-case files against the core. */
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { CALLS } from './verify/calls';
import { differences, type Tolerance } from './verify/judge';

interface Case {
  name: string;
  call: string;
  input: unknown;
  expect: unknown;
  tolerance?: Tolerance;
}

/** More differing figures than this of one case are counted, not listed. */
const SHOWN = 8;

function caseFiles(path: string): string[] {
  if (!statSync(path).isDirectory()) return [path];
  return readdirSync(path)
    .filter((f) => f.endsWith('.json'))
    .sort()
    .map((f) => join(path, f));
}

function runCase(file: string, c: Case): 'passed' | 'failed' | 'not covered' {
  const call = CALLS[c.call];
  const title = `${file}: ${c.name} (${c.call})`;
  if (!call) return 'not covered';
  let got: unknown;
  try {
    got = call(c.input);
  } catch (error) {
    console.log(`FAILED ${title}\n  threw ${String(error)}`);
    return 'failed';
  }
  const off = differences(c.expect, got, c.tolerance ?? {});
  if (off.length === 0) return 'passed';
  console.log(`FAILED ${title}`);
  for (const d of off.slice(0, SHOWN)) console.log(`  ${d.key}: wanted ${JSON.stringify(d.want)}, got ${JSON.stringify(d.got)}`);
  if (off.length > SHOWN) console.log(`  … and ${off.length - SHOWN} more`);
  return 'failed';
}

const args = process.argv.slice(2);
const requireAll = args.includes('--require-all');
const unknown = args.filter((a) => a.startsWith('--') && a !== '--require-all');
const paths = args.filter((a) => !a.startsWith('--'));
const count = { passed: 0, failed: 0, 'not covered': 0 };
const uncovered = new Map<string, number>();
try {
  if (unknown.length > 0) throw new Error(`unknown option ${unknown.join(' ')}; known: --require-all`);
  for (const file of (paths.length > 0 ? paths : ['verification']).flatMap(caseFiles)) {
    const { cases } = JSON.parse(readFileSync(file, 'utf8')) as { cases: Case[] };
    for (const c of cases) {
      const outcome = runCase(file, c);
      count[outcome] += 1;
      if (outcome === 'not covered') uncovered.set(c.call, (uncovered.get(c.call) ?? 0) + 1);
    }
  }
} catch (error) {
  console.log(`verify: ${error instanceof Error ? error.message : String(error)}`);
  process.exit(2);
}
if (uncovered.size > 0) console.log(`Not covered yet: ${[...uncovered].map(([call, n]) => `${call} ${n}`).join(', ')}`);
console.log(`${count.passed} passed, ${count.failed} failed, ${count['not covered']} not covered`);
process.exit(count.failed > 0 || (requireAll && count['not covered'] > 0) ? 1 : 0);
