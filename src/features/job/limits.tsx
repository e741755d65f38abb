'use client';

import { useMemo, type ReactNode } from 'react';
import { isFailure } from '@/core/failure';
import { compressorLimits, type CompressorLimit } from '@/core/job/compressor-limits';
import { chokingOf, type Choking, type JobModel } from '@/core/job/model';
import type { UnitPack } from '@/core/units/measures';
import { formatNumber, formatQuantity } from '@/core/units/quantity';
import { rpmText } from '@/ui/answer/words';
import type { ChartSpec } from '@/ui/chart/figure';
import { usePrefs } from '@/ui/theme/prefs';
import { useJob } from './provider';
import styles from './job.module.css';
import { msg } from './messages';

/** Where a path chokes, in words. */
export const chokingText = (name: string, { from_rpm, part }: Choking): string =>
  `${name} chokes from ${rpmText(from_rpm)}: the ${part} passes no more, however low the pressure behind it.`;

/** What a blower or compressor runs into, in words. */
export function limitText(limit: CompressorLimit, pack: UnitPack): string {
  if (limit.kind === 'blower speed')
    return `The blower passes its ${formatNumber(limit.limit_rpm, 0)} rpm limit from ${rpmText(limit.from_rpm)} of the engine and turns ${formatNumber(Math.round(limit.top_rpm), 0)} rpm at the redline.`;
  const where =
    limit.from_rpm === limit.to_rpm ? `at ${rpmText(limit.from_rpm)}` : `from ${rpmText(limit.from_rpm)} to ${rpmText(limit.to_rpm)}`;
  const flow = formatQuantity(limit.massFlow_kgps, 'massFlow', pack);
  const edge = formatQuantity(limit.edge_kgps, 'massFlow', pack);
  const ratio = formatNumber(limit.ratio, 2);
  return limit.kind === 'surge'
    ? `The compressor surges ${where}: ${flow} at a pressure ratio of ${ratio}, where its map begins at ${edge}.`
    : `The compressor is out of flow ${where}: ${flow} at a pressure ratio of ${ratio}, where its map ends at ${edge}.`;
}

/** What the engine as it is runs into: a part that chokes, a blower past its speed, a compressor off its map. `pulley_m`: with another pulley. */
function useLimits(model: JobModel, pulley_m?: number | null): readonly string[] {
  const car = useJob((s) => s.doc.car);
  const { pack } = usePrefs();
  const solved = isFailure(model.stock.solved) ? null : model.stock.solved;
  const choking = chokingOf(model, model.stock);
  return [
    ...(choking ? [chokingText('The intake as it is', choking)] : []),
    ...compressorLimits({ car }, model.rpm, solved, pulley_m).map((l) => limitText(l, pack)),
    ...((solved?.without_rpm ?? []).length > 0
      ? [`At ${rpmRange(solved!.without_rpm!)} the compressor adds nothing: it is solved as if it were by-passed there.`]
      : []),
    ...((solved?.unmeasured_rpm ?? []).length > 0
      ? [`At ${rpmRange(solved!.unmeasured_rpm!)} this blower cannot make the measured boost: the efficiency table stands in for it there.`]
      : []),
  ];
}

/** Where a limit begins on a picture over engine speed, and what it is in a word or two. */
export interface LimitMark {
  readonly rpm: number;
  readonly text: string;
}

export function useLimitMarks(model: JobModel): readonly LimitMark[] {
  const car = useJob((s) => s.doc.car);
  return useMemo(() => {
    const sides = [model.stock, ...model.candidates];
    const choking = sides.flatMap((side): LimitMark[] => {
      const found = chokingOf(model, side);
      return found ? [{ rpm: found.from_rpm, text: `${found.part} chokes` }] : [];
    });
    const solved = isFailure(model.stock.solved) ? null : model.stock.solved;
    const compressor = compressorLimits({ car }, model.rpm, solved).map((l): LimitMark =>
      l.kind === 'blower speed'
        ? { rpm: l.from_rpm, text: msg.blowerAtItsLimit }
        : l.kind === 'surge'
          ? { rpm: l.to_rpm, text: msg.surgesBelow }
          : { rpm: l.from_rpm, text: msg.compressorsMapEnds },
    );
    const all = [...choking, ...compressor];
    return all.filter((m, i) => all.findIndex((o) => o.text === m.text) === i);
  }, [model, car]);
}

/** Those limits as upright lines with their words, for a picture whose values run between these. */
export const limitLines = (
  marks: readonly LimitMark[],
  [low, high]: readonly [number, number],
  color: string,
): Required<Pick<ChartSpec, 'lines' | 'words'>> => ({
  lines: marks.map((m) => ({
    id: `limit ${m.text}`,
    label: m.text,
    x: [m.rpm, m.rpm],
    y: [low, high],
    color,
    dash: 'dot',
    width: 1.4,
    bare: true,
  })),
  words: marks.map((m, i) => ({ x: m.rpm, text: `${m.text} `, color, anchor: 'right', low: i % 2 === 1 })),
});

const rpmRange = (rpm: readonly number[]): string =>
  rpm.length === 1 ? rpmText(rpm[0]!) : `${formatNumber(Math.min(...rpm), 0)} to ${rpmText(Math.max(...rpm))}`;

/** The limits that the engine as it stands runs into, told where its figures are chosen. */
export function Limits({ model, pulley_m, children }: { model: JobModel; pulley_m?: number | null; children?: ReactNode }) {
  const limits = useLimits(model, pulley_m);
  if (limits.length === 0) return null;
  return (
    <div role="alert" className={styles['limits']}>
      {limits.map((text) => (
        <p key={text}>{text}</p>
      ))}
      {children}
    </div>
  );
}
