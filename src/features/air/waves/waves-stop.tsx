'use client';

import { Button, Progress } from 'antd';
import { useMemo, useState } from 'react';
import { isFailure } from '@/core/failure';
import { NO_DIFFERENCE, waveScore, waveStretches } from '@/core/job/wave-answer';
import type { JobModel } from '@/core/job/model';
import type { WaveResult } from '@/core/waves/result';
import { triedFillingWorking } from '@/core/working/wave-working';
import { formatNumber } from '@/core/units/quantity';
import { Heading, Pair, Rule, StopPage } from '@/ui/answer/stop-page';
import { failureText } from '@/ui/answer/words';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import { Calibrate } from './calibrate';
import { CurveChart, knownAt } from './curve-chart';
import { InletFields, TrialFields } from './inlet-fields';
import { LengthMap } from './length-map';
import { msg } from './messages';
import { WavePicture } from './picture';
import { RestsOn } from './rests-on';
import { Rules } from './rules';
import { topOf, useBand, useCurves, useTasks, useWaves, type WaveCurves, type Waves } from './use-waves';
import { effectSentence, rpmWords, triedWords } from './words';
import styles from './waves.module.css';

/** Speeds within this share of one another are the same peak. */
const SAME_PEAK = 0.06;

function answerOf(model: JobModel, waves: Waves, curves: WaveCurves, pack: Parameters<typeof triedWords>[2]): string {
  const range = [curves.rpm[0]!, curves.rpm.at(-1)!] as const;
  if (curves.ratio.every((r) => r === null))
    return curves.progress === null && curves.lost > 0
      ? 'The waves could not be computed on this machine.'
      : 'Computing the waves in this inlet …';
  if (waves.differs) {
    const text = effectSentence(triedWords(waves.now, waves.trial, pack), waveStretches(curves.rpm, curves.ratio), range);
    return curves.complete ? text : `So far: ${text.charAt(0).toLowerCase()}${text.slice(1)}`;
  }
  const top = curves.complete ? topOf(curves.rpm, curves.now) : null;
  if (top === null) return 'Computing the waves in this inlet …';
  const there = curves.now.filter((v): v is number => v !== null);
  const spread = Math.max(...there) / Math.min(...there) - 1;
  if (spread < 4 * NO_DIFFERENCE) return 'This inlet fills the engine alike at every speed: waves decide nothing here.';
  const own = topOf(model.rpm, waves.setup.known)!;
  if (Math.abs(own / top - 1) < SAME_PEAK)
    return `This inlet fills its cylinders best near ${rpmWords(top)}, as the car’s own curve has it.`;
  return `By the model waves fill this engine best near ${rpmWords(top)}; the car’s own curve peaks near ${rpmWords(own)}.`;
}

/** What is tried is worth over the band between shifts, in a sentence; empty until all of it is reckoned. */
function bandWords(model: JobModel, waves: Waves, curves: WaveCurves, band: readonly [number, number]): string {
  if (!waves.differs || !curves.complete) return '';
  const known = knownAt(model, waves);
  const there = curves.rpm.map((_, i) => i).filter((i) => curves.ratio[i] !== null);
  const rpm = there.map((i) => curves.rpm[i]!);
  const score = (filling: (i: number) => number): number | null => waveScore(rpm, there.map(filling), 'band', band);
  const [now, trial] = [score((i) => known(curves.rpm[i]!)), score((i) => known(curves.rpm[i]!) * curves.ratio[i]!)];
  if (now === null || trial === null) return '';
  const share = trial / now - 1;
  const where = `Between shifts, ${formatNumber(Math.round(band[0] / 50) * 50, 0)} to ${rpmWords(band[1])}, it`;
  return Math.abs(share) < NO_DIFFERENCE
    ? `${where} makes no difference on the whole. `
    : `${where} fills ${formatNumber(Math.abs(share) * 100, 1)} % ${share > 0 ? 'better' : 'worse'} on the whole. `;
}

const assumedWords = (count: number): string =>
  count === 0
    ? 'Every figure of the inlet is given.'
    : `${count === 1 ? 'One figure of the inlet is' : `${count} figures of the inlet are`} assumed: see below what moves most.`;

/** The figures of the speed looked at, each with how it comes about. */
function AtSpeed({
  model,
  waves,
  rpm,
  trial,
  now,
}: {
  model: JobModel;
  waves: Waves;
  rpm: number;
  trial: WaveResult | null;
  now: WaveResult | null;
}) {
  const known = knownAt(model, waves)(rpm);
  const both = trial?.settled && now?.settled ? { trial, now } : null;
  return (
    <>
      <Heading>
        {msg.at} {formatNumber(rpm, 0)} {msg.rpm}
      </Heading>
      <Pair name={msg.fillingAsItIs}>
        <span>{formatNumber(known * 100, 1)} %</span>
      </Pair>
      {waves.differs && (
        <Pair name={msg.fillingTried}>
          {both ? (
            <Num label={msg.fillingTried} working={() => triedFillingWorking(rpm, known, both.now.W, both.trial.W)}>
              {formatNumber(((known * both.trial.W) / both.now.W) * 100, 1)} %
            </Num>
          ) : (
            <span>…</span>
          )}
        </Pair>
      )}
      {trial?.settled && (
        <>
          <Pair name={waves.setup.hasThrottle ? msg.throttlePeakToMean : msg.mouthPeakToMean}>
            <span>{formatNumber(trial.peakToMean, 2)} ×</span>
          </Pair>
          <Pair name={msg.comesBack}>
            <span>{formatNumber(trial.reversedShare * 100, 1)} %</span>
          </Pair>
        </>
      )}
    </>
  );
}

function Inside({ model, waves, rpm, onRpm }: { model: JobModel; waves: Waves; rpm: number; onRpm: (rpm: number) => void }) {
  const { pack } = usePrefs();
  // Stopped for these figures: others are computed again.
  const [haltedAt, setHaltedAt] = useState<Waves | null>(null);
  const halted = haltedAt === waves;
  const curves = useCurves(waves, halted);
  const band = useBand(model);
  const one = useMemo(
    () => [waves.trial, ...(waves.differs ? [waves.now] : [])].map((f) => ({ engine: waves.setup.engineAt(f, rpm), rpm })),
    [waves, rpm],
  );
  const { results } = useTasks(one, { whole: true });
  const looked = results[0] ?? null;
  const [last, setLast] = useState(looked);
  if (looked && looked !== last) setLast(looked);
  const shown = looked ?? last;
  const few = model.problem.kind === 'na' && model.stock.fitted.throttle.shape === 'individual';
  return (
    <StopPage
      answer={answerOf(model, waves, curves, pack)}
      reason={`${bandWords(model, waves, curves, band)}${assumedWords(waves.assumed.length)}${few ? ' With a throttle to each cylinder this decides more than the bore.' : ''}`}
      aside={
        <>
          <AtSpeed model={model} waves={waves} rpm={rpm} trial={looked} now={waves.differs ? (results[1] ?? null) : looked} />
          <Rule />
          <TrialFields waves={waves} />
          <Rule />
          <InletFields waves={waves} />
        </>
      }
    >
      {(curves.progress !== null || halted) && (
        <div className={styles['tools']}>
          {curves.progress !== null && (
            <Progress
              percent={Math.round(100 * curves.progress)}
              size="small"
              style={{ flex: '1 1 160px' }}
              aria-label={msg.speedsComputed}
            />
          )}
          <Button size="small" onClick={() => setHaltedAt(halted ? null : waves)}>
            {halted ? msg.goOn : msg.stopTheCurve}
          </Button>
        </div>
      )}
      {curves.unsettled.length > 0 && (
        <p role="status">
          Not settled at {curves.unsettled.map((n) => formatNumber(n, 0)).join(', ')} rpm: the cycles there do not come to repeat; these
          speeds are left out.
        </p>
      )}
      {curves.lost > 0 && <p role="status">{msg.lostSome}</p>}
      <CurveChart model={model} waves={waves} curves={curves} rpm={rpm} onRpm={onRpm} />
      {shown && shown.settled && (
        <WavePicture
          result={shown}
          segments={one[0]!.engine.runner.segments}
          ambient_Pa={one[0]!.engine.ambient?.p_Pa ?? 101_325}
          hasPlenum={Boolean(one[0]!.engine.plenum)}
        />
      )}
      {shown && !shown.settled && <p role="status">Not settled at {rpmWords(shown.rpm)}: there is no picture to be trusted.</p>}
      <LengthMap model={model} waves={waves} />
      <div className={styles['two']}>
        <Rules waves={waves} curves={curves} />
        <RestsOn waves={waves} />
      </div>
      <Calibrate model={model} waves={waves} />
    </StopPage>
  );
}

/** Waves: what the unsteady inlet makes of the filling, why, and what another length, bore or plenum would. */
export function WavesStop({ model, rpm, onRpm }: { model: JobModel; rpm: number; onRpm: (rpm: number) => void }) {
  const { pack } = usePrefs();
  const waves = useWaves(model);
  if (isFailure(waves))
    return (
      <StopPage
        tone="danger"
        answer="The waves of this inlet cannot be computed."
        reason={failureText(waves, pack)}
        aside={null}
        children={null}
      />
    );
  return <Inside model={model} waves={waves} rpm={rpm} onRpm={onRpm} />;
}
