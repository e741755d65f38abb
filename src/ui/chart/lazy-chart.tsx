'use client';

import dynamic from 'next/dynamic';
import type { ChartProps } from './chart';
import styles from './chart.module.css';

const Inner = dynamic(() => import('./chart').then((m) => m.Chart), {
  ssr: false,
  loading: () => <div className={styles['loading']}>drawing…</div>,
});

/** A chart whose library is only fetched on pages that show one. Holds its place meanwhile. */
export function Chart(props: ChartProps) {
  return (
    <div style={{ height: props.height }}>
      <Inner {...props} />
    </div>
  );
}
