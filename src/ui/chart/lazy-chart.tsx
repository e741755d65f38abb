'use client';

import dynamic from 'next/dynamic';
import { AwayLine } from '../away';
import { refetched, type Away } from '../refetched';
import type { ChartProps } from './chart';
import styles from './chart.module.css';
import { msg } from './messages';

/** The server went away before the library came: the page around it, and what is typed there, must not go with it. */
const Missing = ({ again }: Away) => <AwayLine className={styles['loading']} what={msg.theChart} again={again} />;

const load = () => import('./chart').then((m) => m.Chart);
const Inner = dynamic<ChartProps>(() => load().catch(() => refetched(load, Missing)), {
  ssr: false,
  loading: () => <div className={styles['loading']}>{msg.drawing}</div>,
});

/** A chart whose library is only fetched on pages that show one. Holds its place meanwhile. */
export function Chart(props: ChartProps) {
  return (
    <div style={{ height: props.height }}>
      <Inner {...props} />
    </div>
  );
}
