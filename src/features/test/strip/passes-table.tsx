'use client';

import { useState } from 'react';
import type { StoredPass, StoredVisit } from '@/core/documents/strip';
import type { StripAnalysis } from '@/core/strip/analysis';
import { DataTable } from '@/ui/table/data-table';
import { msg } from './messages';
import { usePassColumns } from './pass-columns';
import { SlipPad } from './slip-pad';
import styles from './strip.module.css';
import type { Strip } from './use-strip';

/** Every pass of a day: as it was run and, under it, corrected to standard air. */
export function PassesTable({
  visit,
  passes,
  analysis,
  strip,
}: {
  visit: StoredVisit;
  passes: readonly StoredPass[];
  analysis: StripAnalysis | null;
  strip: Strip;
}) {
  const [edited, setEdited] = useState<StoredPass | null>(null);
  const columns = usePassColumns(visit, analysis, strip, setEdited);
  return (
    <div className={styles['passes']}>
      <DataTable
        name="passes"
        rows={passes}
        rowKey={(p) => p.id}
        row={(p) => ({ 'data-out': p.doc.leftOut !== null || p.doc.side === null, 'data-found': p.id })}
        columns={columns}
      />
      {edited && (
        <SlipPad
          visit={visit}
          side={edited.doc.side}
          stored={edited.doc}
          day={passes.filter((p) => p.id !== edited.id)}
          tower={null}
          onKeep={(doc) => strip.savePass(edited, doc)}
          onClose={() => setEdited(null)}
        />
      )}
      <p className="quiet">{msg.aboveAsRunBelowItDotted}</p>
    </div>
  );
}
