import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { dirname, join, normalize } from 'node:path';

const FILES = execFileSync('git', ['ls-files', '--cached', '--others', '--exclude-standard'], { encoding: 'utf8' }).split('\n');
const DOCS = ['README.md', 'CONTRIBUTING.md', ...FILES.filter((f) => /^docs\/[^/]+\.md$/.test(f))];

/** A name as it is written in a sentence: the end of a file's path, or a folder of it. */
const stands = (name: string): boolean => FILES.some((f) => `/${f}`.endsWith(`/${name}`));
const linked = (doc: string, to: string): boolean => {
  const path = normalize(join(dirname(doc), to)).replace(/\/$/, '');
  return FILES.some((f) => f === path || f.startsWith(`${path}/`));
};

/** Not files of the repository: what stands in an archive the app writes, and addresses. */
const ELSEWHERE = /^job\.json$|^\/api\//;

it.each(DOCS)('%s names files that are there', (doc) => {
  const text = readFileSync(doc, 'utf8');
  const named = [...text.matchAll(/`([\w.[\]/-]+\.(?:tsx?|[mc]js|json|css|yml|service|md))`/g)].map((m) => m[1]!);
  const links = [...text.matchAll(/\]\((?!\w+:|#)([^)#]+)/g)].map((m) => m[1]!);
  expect({ named: named.filter((n) => !stands(n) && !ELSEWHERE.test(n)), links: links.filter((l) => !linked(doc, l)) }).toEqual({
    named: [],
    links: [],
  });
});
