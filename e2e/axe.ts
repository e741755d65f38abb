import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page } from '@playwright/test';
import type axe from 'axe-core';

const SOURCE = readFileSync(createRequire(`${process.cwd()}/`).resolve('axe-core/axe.min.js'), 'utf8');

/**
 * What axe finds wrong on a page as it stands, a line a rule. Put into the page and run there: its own driver for this opens a second
 * page for every look, which takes three times as long, and no page of ours has a frame to look into.
 */
export async function axeFinds(page: Page): Promise<string[]> {
  await page.evaluate(SOURCE);
  return page.evaluate(async () => {
    const { violations } = await (window as unknown as { axe: typeof axe }).axe.run(document, { resultTypes: ['violations'] });
    const where = (nodes: axe.NodeResult[]): string =>
      nodes
        .slice(0, 3)
        .map((n) => n.target.join(' '))
        .join(', ');
    return violations.map((v) => `${location.pathname}${location.search}: ${v.id} at ${where(v.nodes)}`);
  });
}
