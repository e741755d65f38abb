'use client';

import { Button, Progress, Segmented } from 'antd';
import { useEffect, useRef, useState } from 'react';
import type { JobModel } from '@/core/job/model';
import { WAVE_PURPOSES, type WavePurpose } from '@/core/job/wave-answer';
import { formatNumber, formatQuantity } from '@/core/units/quantity';
import { useJob } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop-page';
import { usePrefs } from '@/ui/theme/prefs';
import { msg } from './messages';
import { paint, shader } from './shades';
import { useLengthMap, type LengthMapState } from './use-length-map';
import type { Waves } from './use-waves';
import { PURPOSE_WORDS } from './words';
import styles from './waves.module.css';

/** Shades reach their full at a difference of so much. */
const FULL = 0.1;

/** The map itself: a shade for each length and speed, the length as it is, and the band between shifts. */
function MapPicture({ map: { rpm, lengths, ratio, band }, now_m }: { map: LengthMapState; now_m: number }) {
  const { pack, palette } = usePrefs();
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (!canvas.current) return;
    const shade = shader(palette.series[2]!, palette.sheet, palette.series[0]!);
    const [w, h] = [rpm.length * 8, lengths.length * 8];
    paint(
      canvas.current,
      w,
      h,
      (x, y) => {
        // Smooth between the points of the grid; nothing where one of them is missing.
        const c = (x / (w - 1)) * (rpm.length - 1);
        const r = (1 - y / (h - 1)) * (lengths.length - 1);
        const [c0, r0] = [Math.min(Math.floor(c), rpm.length - 2), Math.min(Math.floor(r), lengths.length - 2)];
        const corner = [ratio[r0]![c0], ratio[r0]![c0 + 1], ratio[r0 + 1]![c0], ratio[r0 + 1]![c0 + 1]];
        if (corner.some((v) => v === null || v === undefined)) return null;
        const [a, b, d, e] = corner as number[];
        const [fx, fy] = [c - c0, r - r0];
        return ((a! * (1 - fx) + b! * fx) * (1 - fy) + (d! * (1 - fx) + e! * fx) * fy - 1) / FULL;
      },
      shade,
    );
  }, [ratio, palette, rpm, lengths]);

  const left = (n: number): number => (100 * (n - rpm[0]!)) / (rpm.at(-1)! - rpm[0]!);
  const top = (length_m: number): number => 100 - (100 * (length_m - lengths[0]!)) / (lengths.at(-1)! - lengths[0]!);
  return (
    <>
      <div className={styles['map']}>
        <canvas ref={canvas} role="img" aria-label={msg.mapAlt} />
        {[lengths[0]!, lengths[Math.floor(lengths.length / 2)]!, lengths.at(-1)!].map((l) => (
          <span key={l} className={styles['lengths']} style={{ top: `${top(l)}%` }}>
            {formatQuantity(l, 'length', pack)}
          </span>
        ))}
        <i className={styles['stripe']} style={{ top: `${top(now_m)}%` }} />
        <i
          className={styles['band']}
          style={{ left: `${left(Math.max(band[0], rpm[0]!))}%`, right: `${100 - left(Math.min(band[1], rpm.at(-1)!))}%` }}
        />
      </div>
      <div className={styles['angles']} style={{ marginLeft: 62 }} aria-hidden>
        {[0, 0.25, 0.5, 0.75, 1].map((s) => (
          <span key={s} style={{ left: `${100 * s}%` }}>
            {formatNumber(Math.round((rpm[0]! + s * (rpm.at(-1)! - rpm[0]!)) / 50) * 50, 0)}
            {s === 0.5 && ' rpm'}
          </span>
        ))}
      </div>
      <p className={styles['legend']} style={{ marginLeft: 62 }}>
        −10 %
        <i
          className={styles['ramp']}
          style={{ background: `linear-gradient(to right, ${palette.series[2]}, ${palette.sheet}, ${palette.series[0]})` }}
        />
        +10 % filling · dashed: as it is · upright lines: {formatNumber(Math.round(band[0] / 50) * 50, 0)} to{' '}
        {formatNumber(Math.round(band[1] / 50) * 50, 0)} rpm between shifts
      </p>
    </>
  );
}

/** The length that fills best for a purpose, to be taken as tried. */
function BestLength({
  map: { best, shown, stopped },
  purpose,
  onPurpose,
}: {
  map: LengthMapState;
  purpose: WavePurpose;
  onPurpose: (p: WavePurpose) => void;
}) {
  const { pack } = usePrefs();
  const set = useJob((s) => s.set);
  return (
    <div className={styles['tools']}>
      <span>{msg.bestFor}</span>
      <Segmented
        size="small"
        aria-label={msg.bestFor}
        value={purpose}
        options={WAVE_PURPOSES.map((value) => ({ value, label: PURPOSE_WORDS[value] }))}
        onChange={onPurpose}
      />
      {purpose === 'low' && best === null && shown?.progress === null && !stopped && <span className="quiet">{msg.nothingBelow}</span>}
      {best && (
        <>
          <b>
            {formatQuantity(best.length_m, 'length', pack)}
            {Math.abs(best.gain) < 0.005
              ? ', no better than now'
              : `, ${best.gain > 0 ? '+' : '−'}${formatNumber(Math.abs(best.gain) * 100, 1)} %`}
          </b>
          <Button size="small" onClick={() => set('pick.inlet.length_m', best.length_m)}>
            {msg.takeItAsTried}
          </Button>
        </>
      )}
    </div>
  );
}

function Asking({ map }: { map: LengthMapState }) {
  return (
    <div className={styles['tools']}>
      {map.running ? (
        <>
          <Progress percent={Math.round(100 * (map.shown?.progress ?? 0))} style={{ flex: '1 1 160px' }} aria-label={msg.computeTheMap} />
          <Button size="small" onClick={map.stop}>
            {msg.stop}
          </Button>
        </>
      ) : (
        <>
          <Button size="small" onClick={() => map.ask({ fine: false })} disabled={!map.asksHere}>
            {msg.computeTheMap}
          </Button>
          <Button size="small" onClick={() => map.ask({ fine: true })}>
            {msg.fineMap}
          </Button>
        </>
      )}
      {map.stopped && <span className="quiet">{msg.stopped}</span>}
      {map.says !== null && (
        <span className="quiet" role="status">
          {map.says}
        </span>
      )}
    </div>
  );
}

/** Filling over runner length and engine speed beside the inlet as it is, and the best length for a purpose. */
export function LengthMap({ model, waves }: { model: JobModel; waves: Waves }) {
  const { pack } = usePrefs();
  const [purpose, setPurpose] = useState<WavePurpose>('band');
  const map = useLengthMap(model, waves, purpose);
  const now_m = waves.now.length_m;
  return (
    <section>
      <Heading
        more={
          <span className="quiet">{`${map.lengths.length} lengths × ${map.rpm.length} speeds, beside ${formatQuantity(now_m, 'length', pack)}${map.running ? msg.drawnBetween : ''}`}</span>
        }
      >
        {msg.mapOfLengths}
      </Heading>
      <Asking map={map} />
      {map.shown && (
        <>
          <MapPicture map={map} now_m={now_m} />
          <BestLength map={map} purpose={purpose} onPurpose={setPurpose} />
        </>
      )}
    </section>
  );
}
