'use client';

import { isFailure } from '@/core/failure';
import { STRIP_MEASURES, type MeasuredEffect, type StripAnalysis, type StripMeasure } from '@/core/strip/analysis';
import { formatSigned } from '@/core/units/quantity';
import { powerShareWorking, stripEffectWorking } from '@/core/working/strip-working';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import { Widths } from '../dyno/widths';
import { msg } from './messages';
import styles from './strip.module.css';
import {
  airWords,
  answerWord,
  DISTANCE_NAMES,
  intervalText,
  MEASURE_NAMES,
  measureText,
  pairLimits,
  shownSpeed,
  warningWords,
} from './words';

/** What the passes say of power, in two independent ways. */
function PowerMoved({ analysis }: { analysis: StripAnalysis }) {
  const { powerBySpeed, powerByTime } = analysis;
  const { trap_mps, et_s } = analysis.effects;
  if (!powerBySpeed || !powerByTime || isFailure(trap_mps) || isFailure(et_s)) return null;
  const pct = (share: number): string => formatSigned(100 * share, 1, '%');
  return (
    <>
      {msg.powerMovedBy}{' '}
      <Num small label={msg.powerByTheTrapSpeed} working={() => powerShareWorking('speed', trap_mps, powerBySpeed)}>
        {pct(powerBySpeed.share)}
      </Num>{' '}
      ({pct(powerBySpeed.low)} {msg.to2} {pct(powerBySpeed.high)}
      {msg.byTheTrapSpeedBy}{' '}
      <Num small label={msg.powerByTheTime} working={() => powerShareWorking('time', et_s, powerByTime)}>
        {pct(powerByTime.share)}
      </Num>{' '}
      {msg.byTheTimeWhereTheyDisagree}{' '}
    </>
  );
}

/** ET, trap speed and 60 ft, each with its own answer. */
export function Effects({ analysis }: { analysis: StripAnalysis }) {
  const { pack } = usePrefs();
  const row = (measure: StripMeasure, e: MeasuredEffect, other?: string) => {
    const text = (v: number, signed = true): string => measureText(measure, v, pack, signed);
    return (
      <tr key={other ?? measure}>
        <td>{other ?? MEASURE_NAMES[measure]}</td>
        <td className="num">{text(e.meanA, false)}</td>
        <td className="num">{text(e.meanB, false)}</td>
        <td className="num">
          <Num
            small
            label={`effect on the ${MEASURE_NAMES[measure]}`}
            working={() =>
              stripEffectWorking(e, `Effect on the ${MEASURE_NAMES[measure]}`, measure === 'trap_mps' ? 'roadSpeed' : 'time', [airWords(e)])
            }
          >
            {text(e.answer.estimate)}
          </Num>
        </td>
        <td className="num">{intervalText(measure, e.answer.low, e.answer.high, pack)}</td>
        <td>{answerWord(e.answer.word)}</td>
      </tr>
    );
  };
  return (
    <div className={styles['passes']}>
      <table className="plain">
        <thead>
          <tr>
            <th>{msg.newAgainstStock}</th>
            <th className="num">{msg.stockAsRun}</th>
            <th className="num">{msg.newAsRun}</th>
            <th className="num">{msg.effect}</th>
            <th className="num">{msg.n95Interval}</th>
            <td />
          </tr>
        </thead>
        <tbody>
          {STRIP_MEASURES.map((m) => {
            const e = analysis.effects[m];
            return isFailure(e) ? null : row(m, e);
          })}
          {analysis.others.flatMap(({ distance, et_s, trap_mps }) => [
            ...(isFailure(et_s) ? [] : [row('et_s', et_s, `time over ${DISTANCE_NAMES[distance]}`)]),
            ...(trap_mps === null || isFailure(trap_mps) ? [] : [row('trap_mps', trap_mps, `speed over ${DISTANCE_NAMES[distance]}`)]),
          ])}
        </tbody>
      </table>
      <p className="quiet">{msg.theMeansAreAsRunThe}</p>
      {isFailure(analysis.effects.trap_mps) ? null : (
        <Widths answer={analysis.effects.trap_mps.answer} unit={shownSpeed(0, pack).unit} factor={shownSpeed(1, pack).value} />
      )}
      {analysis.warnings.length > 0 && (
        <ul className={styles['warnings']} aria-label={msg.whatWentWithTheSides}>
          {analysis.warnings.map((w) => (
            <li key={w.code}>{warningWords(w, pack)}</li>
          ))}
        </ul>
      )}
      <p className="quiet">
        <PowerMoved analysis={analysis} />
        {analysis.pairs.length === 0
          ? `No matched pair: no two passes of one day within ${pairLimits(pack)} of coolant and inlet air.`
          : `${analysis.pairs.length} matched ${analysis.pairs.length === 1 ? 'pair' : 'pairs'} (one day, within ${pairLimits(pack)}): ${analysis.pairs
              .slice(0, 4)
              .map((p) => `${p.a.stored.doc.at ?? '—'} and ${p.b.stored.doc.at ?? '—'}`)
              .join('; ')}${analysis.pairs.length > 4 ? ' and others' : ''}. The estimate uses every pass.`}
      </p>
    </div>
  );
}
