'use client';

import dynamic from 'next/dynamic';
import type { ChartProps } from './chart';
import styles from './chart.module.css';
import { msg } from './messages';

/** The server went away before the library came: the page around it, and what is typed there, must not go with it. */
function Missing() {
  return <div className={styles['loading']}>{msg.theChartCouldNotBeFetched}</div>;
}

const Inner = dynamic<ChartProps>(
  () =>
    import('./chart').then(
      (m) => m.Chart,
      () => Missing,
    ),
  {
    ssr: false,
    loading: () => <div className={styles['loading']}>{msg.drawing}</div>,
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
