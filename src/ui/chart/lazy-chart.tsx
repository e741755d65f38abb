'use client';

import dynamic from 'next/dynamic';
import type { ChartProps } from './chart';
import styles from './chart.module.css';

/** The server went away before the library came: the page around it, and what is typed there, must not go with it. */
function Missing() {
  return <div className={styles['loading']}>The chart could not be fetched from the server. Reload the page when it is back.</div>;
}

const Inner = dynamic<ChartProps>(
  () =>
    import('./chart').then(
      (m) => m.Chart,
      () => Missing,
    ),
  {
    ssr: false,
    loading: () => <div className={styles['loading']}>drawing…</div>,
  },
);

/** A chart whose library is only fetched on pages that show one. Holds its place meanwhile. */
export function Chart(props: ChartProps) {
  return (
    <div style={{ height: props.height }}>
      <Inner {...props} />
    </div>
  );
}
