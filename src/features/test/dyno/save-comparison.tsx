'use client';

import { Button } from 'antd';
import type { SideComparison } from '@/core/compare/sides';
import { comparisonCsv } from '@/core/export/comparison';
import { useJob, useRuns } from '@/features/job/provider';
import { saveFile } from '@/ui/chart/save-file';
import { Heading } from '@/ui/answer/stop-page';
import type { CompareReply } from './compare.worker';
import styles from '../test.module.css';
import { msg } from './messages';

/** The comparison as a table with its units, and as the whole of what was computed. */
export function SaveComparison({ c, reply, name }: { c: SideComparison; reply: CompareReply; name: string }) {
  const job = useJob((s) => s.doc.name);
  const test = useJob((s) => s.doc.test);
  const { runs } = useRuns();
  const file = `${job} ${name}`.replace(/[^\p{L}\p{N} -]/gu, '');
  const json = (): string =>
    JSON.stringify(
      {
        job,
        unit: name,
        settings: test,
        units: { rpm: 'rpm', '*_W': 'W', '*_pct': '% of stock' },
        runs: reply.compared.map((id) => runs.find((r) => r.id === id)?.doc.name ?? id),
        comparison: c,
        confounders: reply.confounders,
        besidePower: reply.extras,
      },
      null,
      2,
    );
  return (
    <>
      <Heading>{msg.exportWord}</Heading>
      <div className={styles['takers']}>
        <Button size="small" onClick={() => saveFile(`${file} comparison.csv`, comparisonCsv(c, reply.extras), 'text/csv')}>
          {msg.csv}
        </Button>
        <Button size="small" onClick={() => saveFile(`${file} comparison.json`, json(), 'application/json')}>
          {msg.json}
        </Button>
      </div>
    </>
  );
}
