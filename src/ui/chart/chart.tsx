'use client';

import * as Plotly from 'plotly.js-cartesian-dist-min';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { usePrefs } from '../theme/prefs';
import { CSV_FORMS, type CsvForm } from '@/core/export/csv';
import { figureOf, type ChartSpec } from './figure';
import { figureCsv } from './figure-csv';
import { saveFile } from './save-file';
import styles from './chart.module.css';

const CONFIG = { displayModeBar: false, responsive: false, staticPlot: false, doubleClick: false, scrollZoom: false };

const FORM_WORDS: Readonly<Record<CsvForm, string>> = {
  plain: 'CSV',
  spreadsheet: 'CSV for a spreadsheet',
  'decimal comma': 'CSV, decimal commas',
};

export interface ChartProps {
  readonly spec: ChartSpec;
  readonly height: number;
  readonly name: string;
  /** What the picture shows, for those who cannot see it. */
  readonly alt: string;
  readonly children?: ReactNode;
}

/** One Plotly chart: redrawn in place when its spec changes, following its box's width. */
export function Chart({ spec, height, name, alt, children }: ChartProps) {
  const { palette } = usePrefs();
  const root = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useEffect(() => {
    const box = root.current!;
    const observer = new ResizeObserver(([entry]) => setWidth(Math.floor(entry!.contentRect.width)));
    observer.observe(box);
    return () => {
      observer.disconnect();
      Plotly.purge(box);
    };
  }, []);
  useEffect(() => {
    if (width === 0) return;
    // The answer is painted first: the library's own redraw waits until the frame with the new words is out, and only
    // the newest of several waiting redraws is done.
    let timer: ReturnType<typeof setTimeout> | undefined;
    const draw = (): void => {
      const { data, layout } = figureOf(spec, { width, height }, palette);
      void Plotly.react(root.current!, data, layout, CONFIG);
    };
    const frame = requestAnimationFrame(() => (timer = setTimeout(draw, 0)));
    return () => {
      cancelAnimationFrame(frame);
      clearTimeout(timer);
    };
  }, [spec, width, height, palette]);
  const image = (format: 'png' | 'svg'): void => {
    void Plotly.downloadImage(root.current!, { format, width, height, filename: name, scale: format === 'png' ? 2 : 1 });
  };
  return (
    <figure className={styles['figure']} style={{ height }} aria-label={alt}>
      <div ref={root} className={styles['plot']} role="img" aria-label={alt} />
      {children}
      <details className={`${styles['save']} no-print`}>
        <summary aria-label={`Save ${name}`}>save</summary>
        <div>
          <button type="button" onClick={() => image('png')}>
            PNG
          </button>
          <button type="button" onClick={() => image('svg')}>
            SVG
          </button>
          {CSV_FORMS.map((form) => (
            <button key={form} type="button" onClick={() => saveFile(`${name}.csv`, figureCsv(spec, form), 'text/csv')}>
              {FORM_WORDS[form]}
            </button>
          ))}
        </div>
      </details>
    </figure>
  );
}
