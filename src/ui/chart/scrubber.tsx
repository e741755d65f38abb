'use client';

import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { formatNumber } from '@/core/units/quantity';
import { follow } from '../drag';
import { MARGIN_LEFT, MARGIN_RIGHT } from './figure';
import styles from './chart.module.css';
import { useChartView } from './chart-view';

/** A handle on the rpm axis: dragged, clicked, or moved with the arrow keys. Drawn over the chart, so that moving it draws nothing anew. */
export function RpmScrubber({
  rpm,
  range: whole,
  onChange,
  step = 50,
  marginRight = MARGIN_RIGHT,
  label = 'Engine speed looked at',
  text = (n) => formatNumber(n, 0),
  valueText = (n) => `${formatNumber(n, 0)} rpm`,
}: {
  rpm: number;
  range: readonly [number, number];
  onChange: (rpm: number) => void;
  step?: number;
  marginRight?: number;
  label?: string;
  /** What stands in the handle, and what is read out. */
  text?: (value: number) => string;
  valueText?: (value: number) => string;
}) {
  const area = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setWidth(entry!.contentRect.width));
    observer.observe(area.current!);
    return () => observer.disconnect();
  }, []);
  const view = useChartView();
  // A chart that is zoomed in shows a part of the range: the handle stands where its value is drawn.
  const [lo, hi] = view?.xRange ?? whole;
  const clamp = (n: number): number => Math.min(whole[1], Math.max(whole[0], Math.round(n / step) * step));
  const valueAt = (e: { readonly clientX: number }): number => {
    const box = area.current!.getBoundingClientRect();
    return lo + ((e.clientX - box.left) / box.width) * (hi - lo);
  };
  const put = (e: { readonly clientX: number }): void => onChange(clamp(valueAt(e)));
  const key = (e: KeyboardEvent): void => {
    const by = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[e.key];
    if (by === undefined) return;
    e.preventDefault();
    onChange(clamp(rpm + by * step * (e.shiftKey ? 10 : 1)));
  };
  const press = (e: PointerEvent): void => follow(e, { begin: () => put(e), move: put });
  const x = ((rpm - lo) / (hi - lo)) * width;
  const away = rpm < lo || rpm > hi;
  return (
    <>
      <div
        ref={area}
        className={styles['catch']}
        style={{ left: MARGIN_LEFT, right: marginRight }}
        onPointerDown={press}
        onPointerMove={(e) => e.buttons === 0 && view?.point(valueAt(e))}
        onPointerLeave={() => view?.point(null)}
      />
      <div className={styles['scrubber']} style={{ left: MARGIN_LEFT + x, visibility: width > 0 && !away ? 'visible' : 'hidden' }}>
        <div
          className={styles['handle']}
          role="slider"
          tabIndex={0}
          aria-label={label}
          aria-valuemin={whole[0]}
          aria-valuemax={whole[1]}
          aria-valuenow={rpm}
          aria-valuetext={valueText(rpm)}
          onKeyDown={key}
          onPointerDown={press}
        >
          {text(rpm)}
        </div>
      </div>
    </>
  );
}
