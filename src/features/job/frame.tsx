'use client';

import { useState, type ReactNode } from 'react';
import { WorkingProvider } from '@/ui/working/provider';
import { Conflict } from './conflict';
import { PrintHead } from './print-head';
import { Spine } from './spine';
import styles from './job.module.css';

/** The open job: its spine on the left, the stop beside it, the working drawer over both. */
export function JobFrame({ children }: { children: ReactNode }) {
  const [folded, setFolded] = useState(false);
  return (
    <WorkingProvider>
      <div className={styles['frame']} data-folded={folded}>
        <Spine folded={folded} onFold={() => setFolded(!folded)} />
        <div className={styles['body']}>
          <PrintHead />
          {children}
        </div>
      </div>
      <Conflict />
    </WorkingProvider>
  );
}
