'use client';

import {
  DownloadOutlined,
  LeftOutlined,
  RightOutlined,
  TableOutlined,
  UndoOutlined,
  ZoomInOutlined,
  ZoomOutOutlined,
} from '@ant-design/icons';
import { Button, Popover } from 'antd';
import * as Plotly from 'plotly.js-cartesian-dist-min';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { CSV_FORMS, type CsvForm } from '@/core/export/csv';
import { formatNumber } from '@/core/units/quantity';
import { Dialog } from '../dialog';
import { usePrefs } from '../theme/prefs';
import { figureOf, MARGIN_LEFT, MARGIN_RIGHT, type ChartSpec } from './figure';
import { figureCsv, figureTable, valuesAt } from './figure-csv';
import { saveFile } from './save-file';
import { ChartViewProvider, moved, zoomed } from './chart-view';
import styles from './chart.module.css';
import { msg } from './messages';

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

type Range = readonly [number, number];

/** Steps of an arrow key over the stretch in view. */
const READ_STEPS = 60;
/** A drag shorter than this, px, is a click. */
const DRAG_px = 8;

/** The figures behind a chart, a row for every x. */
function Figures({ spec, name, onClose }: { spec: ChartSpec; name: string; onClose: () => void }) {
  const { head, rows } = useMemo(() => figureTable(spec), [spec]);
  const text = (cell: unknown): string => (typeof cell === 'number' ? formatNumber(cell, spec.decimals ?? 2) : String(cell ?? ''));
  return (
    <Dialog open title={`${name}, as figures`} footer={null} width={760} onCancel={onClose}>
      <div className={styles['figures']} tabIndex={0}>
        <table className="plain">
          <thead>
            <tr>
              {head.map((h) => (
                <th key={h} className="num">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row, i) => (
              <tr key={i}>
                {row.map((cell, k) => (
                  <td key={k} className="num">
                    {k === 0 && typeof cell === 'number' ? formatNumber(cell, Number.isInteger(cell) ? 0 : 2) : text(cell)}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </Dialog>
  );
}

interface ToolsProps {
  readonly name: string;
  readonly spec: ChartSpec;
  readonly view: Range | null;
  readonly onView: (view: Range | null) => void;
  readonly onTable: () => void;
  readonly onImage: (format: 'png' | 'svg') => void;
}

/** What can be done with a chart, over its upper right corner. */
function Tools({ name, spec, view, onView, onTable, onImage }: ToolsProps) {
  const now = view ?? spec.xRange;
  const tool = (label: string, icon: ReactNode, onClick: () => void) => (
    <Button size="small" type="text" icon={icon} aria-label={`${label}: ${name}`} onClick={onClick} />
  );
  return (
    <div className={`${styles['tools']} no-print`} role="group" aria-label={`Tools of ${name}`}>
      {view && (
        <>
          {tool('Move left', <LeftOutlined aria-hidden />, () => onView(moved(now, spec.xRange, -0.25)))}
          {tool('Move right', <RightOutlined aria-hidden />, () => onView(moved(now, spec.xRange, 0.25)))}
          {tool('Zoom out', <ZoomOutOutlined aria-hidden />, () => onView(zoomed(now, spec.xRange, 2)))}
          {tool('Show all', <UndoOutlined aria-hidden />, () => onView(null))}
        </>
      )}
      {tool('Zoom in', <ZoomInOutlined aria-hidden />, () => onView(zoomed(now, spec.xRange, 0.5)))}
      {tool('Figures', <TableOutlined aria-hidden />, onTable)}
      <Popover
        trigger="click"
        placement="bottomRight"
        content={
          <div className={styles['saveAs']}>
            <button type="button" onClick={() => onImage('png')}>
              {msg.picturePng}
            </button>
            <button type="button" onClick={() => onImage('svg')}>
              {msg.pictureSvg}
            </button>
            {CSV_FORMS.map((form) => (
              <button key={form} type="button" onClick={() => saveFile(`${name}.csv`, figureCsv(spec, form), 'text/csv')}>
                {msg.data} {FORM_WORDS[form]}
              </button>
            ))}
          </div>
        }
      >
        <Button size="small" type="text" icon={<DownloadOutlined aria-hidden />} aria-label={`Save ${name}`} />
      </Popover>
    </div>
  );
}

/** Draws the chart in its box, and draws it anew, in place, when anything of it changes. */
function useDrawn(spec: ChartSpec, height: number, view: Range | null, onView: (view: Range | null) => void) {
  const { palette } = usePrefs();
  const root = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  const changed = useRef(onView);
  useEffect(() => {
    changed.current = onView;
  });
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
      const { data, layout } = figureOf(spec, { width, height }, palette, view);
      void Plotly.react(root.current!, data, layout, CONFIG);
    };
    const frame = requestAnimationFrame(() => (timer = setTimeout(draw, 0)));
    return () => {
      cancelAnimationFrame(frame);
      clearTimeout(timer);
    };
  }, [spec, width, height, palette, view]);
  return { root, width };
}

/** One Plotly chart: its values by pointing and by keys, zoomed and moved by keys, buttons and dragging, its figures behind it. */
export function Chart({ spec, height, name, alt, children }: ChartProps) {
  const [view, setView] = useState<Range | null>(null);
  const [at, setAt] = useState<number | null>(null);
  const [table, setTable] = useState(false);
  const [drag, setDrag] = useState<{ readonly from: number; readonly to: number; readonly held: Range | null } | null>(null);
  const { root, width } = useDrawn(spec, height, view, setView);
  const xRange = view ?? spec.xRange;
  const right = spec.marginRight ?? MARGIN_RIGHT;
  const plotWidth = Math.max(1, width - MARGIN_LEFT - right);
  const pxOf = (x: number): number => MARGIN_LEFT + ((x - xRange[0]) / (xRange[1] - xRange[0])) * plotWidth;
  const xOf = (px: number): number => xRange[0] + ((px - MARGIN_LEFT) / plotWidth) * (xRange[1] - xRange[0]);
  const over = useMemo(() => ({ xRange, point: setAt }), [xRange]);
  const values = at === null ? [] : valuesAt(spec, at);
  const image = (format: 'png' | 'svg'): void => {
    void Plotly.downloadImage(root.current!, { format, width, height, filename: name, scale: format === 'png' ? 2 : 1 });
  };
  const key = (e: KeyboardEvent): void => {
    const step = (xRange[1] - xRange[0]) / READ_STEPS;
    const clamp = (x: number): number => Math.min(xRange[1], Math.max(xRange[0], x));
    const middle = at ?? (xRange[0] + xRange[1]) / 2;
    if (e.target !== e.currentTarget) return;
    if (e.key === 'ArrowLeft' || e.key === 'ArrowRight')
      setAt(clamp(middle + (e.key === 'ArrowLeft' ? -step : step) * (e.shiftKey ? 10 : 1)));
    else if (e.key === '+' || e.key === '=') setView(zoomed(xRange, spec.xRange, 0.5, middle));
    else if (e.key === '-') setView(zoomed(xRange, spec.xRange, 2, middle));
    else if (e.key === '0') setView(null);
    else if (e.key === 'Escape') setAt(null);
    else return;
    e.preventDefault();
  };
  const px = (e: { clientX: number }): number => e.clientX - root.current!.getBoundingClientRect().left;
  return (
    <figure className={styles['figure']} style={{ height }} aria-label={alt}>
      <div
        ref={root}
        className={styles['plot']}
        role="img"
        aria-label={`${alt}. Left and right read values, plus and minus zoom, 0 shows all.`}
        tabIndex={0}
        onKeyDown={key}
        onBlur={() => setAt(null)}
        onDoubleClick={() => setView(null)}
        onMouseDown={(e) => e.button === 0 && setDrag({ from: px(e), to: px(e), held: view })}
        onMouseMove={(e) => {
          if (!drag) return;
          setDrag({ ...drag, to: px(e) });
          // Zoomed in the picture is moved by hand; the whole is dragged over to zoom in.
          if (drag.held) setView(moved(drag.held, spec.xRange, (drag.from - px(e)) / plotWidth));
        }}
        onMouseLeave={() => setDrag(null)}
        onMouseUp={() => {
          if (drag && drag.held === null && Math.abs(drag.to - drag.from) > DRAG_px) {
            const [a, b] = [xOf(Math.min(drag.from, drag.to)), xOf(Math.max(drag.from, drag.to))];
            setView([Math.max(a, spec.xRange[0]), Math.min(b, spec.xRange[1])]);
          }
          setDrag(null);
        }}
      />
      <ChartViewProvider value={over}>{children}</ChartViewProvider>
      {drag && drag.held === null && Math.abs(drag.to - drag.from) > DRAG_px && (
        <div
          className={styles['dragged']}
          style={{ left: Math.min(drag.from, drag.to), width: Math.abs(drag.to - drag.from), bottom: spec.hideX ? 10 : 34 }}
        />
      )}
      {at !== null && values.length > 0 && (
        <>
          <div className={styles['cursor']} style={{ left: pxOf(at), bottom: spec.hideX ? 10 : 34 }} />
          <output className={styles['readout']} style={pxOf(at) > width / 2 ? { left: MARGIN_LEFT + 6 } : { right: right + 6 }}>
            <b>
              {formatNumber(at, xRange[1] - xRange[0] < 20 ? 2 : 0)} {spec.xTitle}
            </b>
            {values.map((v) => (
              <span key={v.label}>
                <i style={{ background: v.color }} />
                {v.label} {formatNumber(v.value, spec.decimals ?? 1)}
              </span>
            ))}
          </output>
        </>
      )}
      <Tools name={name} spec={spec} view={view} onView={setView} onTable={() => setTable(true)} onImage={image} />
      {table && <Figures spec={spec} name={name} onClose={() => setTable(false)} />}
    </figure>
  );
}
