'use client';

import { Button, Progress } from 'antd';
import { useMemo, useState, type ReactNode } from 'react';
import { isFailure } from '@/core/failure';
import { NO_DIFFERENCE, waveScore, waveStretches } from '@/core/job/wave-answer';
import type { JobModel } from '@/core/job/model';
import { helmholtzBest_rpm, helmholtzFactor, plenumBest_rpm, runnerRules } from '@/core/waves/rules';
import { formatNumber } from '@/core/units/quantity';
import { useJob } from '@/features/job/provider';
import { Heading, Rule, StopPage } from '@/ui/answer/stop';
import { failureText } from '@/ui/answer/words';
import { usePrefs } from '@/ui/theme/prefs';
import { CurveChart, knownAt } from './curve-chart';
import { InletFields, TrialFields } from './inlet-fields';
import { LengthMap } from './length-map';
import { msg } from './messages';
import { WavePicture } from './picture';
import { RestsOn } from './rests-on';
import { useBand, useCurves, useTasks, useWaves, type WaveCurves, type Waves } from './use-waves';
import { effectSentence, triedWords } from './words';
import styles from './waves.module.css';

const rpmWords = (n: number): string => `${formatNumber(Math.round(n / 50) * 50, 0)} rpm`;

/** Speed at which a curve is highest; null while it has holes. */
function topOf(rpm: readonly number[], value: readonly (number | null)[]): number | null {
  if (value.some((v) => v === null)) return null;
  return rpm[value.reduce<number>((best, v, i) => (v! > value[best]! ? i : best), 0)]!;
}

/** Speeds within this share of one another are the same peak. */
const SAME_PEAK = 0.06;

function answerOf(model: JobModel, waves: Waves, curves: WaveCurves, pack: Parameters<typeof triedWords>[2]): string {
  const range = [curves.rpm[0]!, curves.rpm.at(-1)!] as const;
  if (curves.ratio.every((r) => r === null)) return 'Computing the waves in this inlet …';
  if (waves.differs) {
    const text = effectSentence(triedWords(waves.now, waves.trial, pack), waveStretches(curves.rpm, curves.ratio), range);
    return curves.progress === null ? text : `So far: ${text.charAt(0).toLowerCase()}${text.slice(1)}`;
  }
  const top = topOf(curves.rpm, curves.now);
  if (top === null) return 'Computing the waves in this inlet …';
  const spread = Math.max(...curves.now.map((v) => v!)) / Math.min(...curves.now.map((v) => v!)) - 1;
  if (spread < 4 * NO_DIFFERENCE) return 'This inlet fills the engine alike at every speed: waves decide nothing here.';
  const own = topOf(model.rpm, waves.setup.known)!;
  if (Math.abs(own / top - 1) < SAME_PEAK)
    return `This inlet fills its cylinders best near ${rpmWords(top)}, as the car’s own curve has it.`;
  return `By the model waves fill this engine best near ${rpmWords(top)}; the car’s own curve peaks near ${rpmWords(own)}.`;
}

/** What is tried is worth over the band between shifts, in a sentence; empty until all of it is reckoned. */
function bandWords(model: JobModel, waves: Waves, curves: WaveCurves, band: readonly [number, number]): string {
  if (!waves.differs || curves.progress !== null) return '';
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

/** The two rules of thumb, and the plenum's, beside what the model finds. */
function Rules({ waves, curves }: { waves: Waves; curves: WaveCurves }) {
  const engine = useJob((s) => s.doc.car.engine);
  const parts = useJob((s) => s.doc.air.parts);
  const rows = useMemo(() => {
    const f = waves.trial;
    const made = waves.setup.engineAt(f, curves.rpm.at(-1)!);
    const T_K = made.ambient?.T_K ?? 298.15;
    const swept_m3 = engine.displacement_m3 / engine.cylinders;
    const bore_m = (f.mouthBore_m + f.valveBore_m) / 2;
    const rules = runnerRules({
      length_m: f.length_m,
      bore_m,
      mouth: { edgeRadius_m: f.edgeRadius_m, kind: made.plenum ? 'flanged' : 'plain' },
      swept_m3,
      compressionRatio: engine.compressionRatio,
      T_K,
    });
    // q = n + 0.35 is where crests lie; the few that fall into the range.
    const crests = Array.from({ length: 12 }, (_, n) => (120 * rules.quarterWave_Hz) / (n + 1.35)).filter(
      (n) => n >= curves.rpm[0]! && n <= curves.rpm.at(-1)!,
    );
    const pipe = made.pipe?.segments;
    const length_m = pipe?.reduce((sum, s) => sum + s.length_m, 0) ?? 0;
    return {
      helmholtz: helmholtzBest_rpm(rules.helmholtz_Hz, helmholtzFactor(f.inletDuration_rad)),
      crests,
      plenum:
        made.plenum && pipe && length_m > 0
          ? plenumBest_rpm({
              bore_m: pipe.at(-1)!.outBore_m,
              length_m: length_m + 0.3 * pipe[0]!.inBore_m,
              volume_m3: made.plenum.volume_m3 + engine.cylinders * f.length_m * (Math.PI / 4) * bore_m ** 2,
              swept_m3,
              cylinders: engine.cylinders,
              T_K,
            })
          : null,
    };
    // The parts of the path are in the setup already.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [waves, curves.rpm, engine, parts]);
  const top = topOf(curves.rpm, curves.trial);
  return (
    <section>
      <Heading>{msg.rulesOfThumb}</Heading>
      <table className="plain">
        <thead>
          <tr>
            <th>{msg.rule}</th>
            <th className="num">{msg.saysBest}</th>
          </tr>
        </thead>
        <tbody>
          <tr>
            <td>{msg.helmholtz}</td>
            <td className="num">{rpmWords(rows.helmholtz)}</td>
          </tr>
          <tr>
            <td>{msg.ripple}</td>
            <td className="num">
              {rows.crests.length === 0
                ? 'none in the range'
                : rows.crests
                    .slice(0, 4)
                    .map((n) => formatNumber(Math.round(n / 50) * 50, 0))
                    .join(', ')}
            </td>
          </tr>
          {rows.plenum !== null && (
            <tr>
              <td>{msg.plenumTone}</td>
              <td className="num">{rpmWords(rows.plenum)}</td>
            </tr>
          )}
          <tr>
            <td>
              <b>{msg.modelBest}</b>
            </td>
            <td className="num">
              <b>{top === null ? '…' : rpmWords(top)}</b>
            </td>
          </tr>
        </tbody>
      </table>
      <p className="quiet">{msg.whyTheyDiffer}</p>
    </section>
  );
}

function Inside({
  model,
  waves,
  rpm,
  onRpm,
  top,
}: {
  model: JobModel;
  waves: Waves;
  rpm: number;
  onRpm: (rpm: number) => void;
  top: ReactNode;
}) {
  const { pack } = usePrefs();
  // Stopped for these figures: others are computed again.
  const [haltedAt, setHaltedAt] = useState<Waves | null>(null);
  const halted = haltedAt === waves;
  const curves = useCurves(waves, halted);
  const band = useBand(model);
  const one = useMemo(() => [{ engine: waves.setup.engineAt(waves.trial, rpm), rpm }], [waves, rpm]);
  const { results } = useTasks(one, { whole: true });
  const looked = results[0] ?? null;
  const [last, setLast] = useState(looked);
  if (looked && looked !== last) setLast(looked);
  const shown = looked ?? last;
  const few = model.problem.kind === 'na' && model.stock.fitted.throttle.shape === 'individual';
  return (
    <StopPage
      answer={answerOf(model, waves, curves, pack)}
      reason={`${bandWords(model, waves, curves, band)}${assumedWords(waves.setup.inlet.assumed.length)}${few ? ' With a throttle to each cylinder this decides more than the bore.' : ''}`}
      aside={
        <>
          <TrialFields waves={waves} />
          <Rule />
          <InletFields waves={waves} />
        </>
      }
    >
      {top}
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
    </StopPage>
  );
}

/** Waves: what the unsteady inlet makes of the filling, why, and what another length, bore or plenum would. */
export function WavesStop({ model, rpm, onRpm, top }: { model: JobModel; rpm: number; onRpm: (rpm: number) => void; top: ReactNode }) {
  const { pack } = usePrefs();
  const waves = useWaves(model);
  if (isFailure(waves))
    return (
      <StopPage tone="danger" answer="The waves of this inlet cannot be computed." reason={failureText(waves, pack)} aside={null}>
        {top}
      </StopPage>
    );
  return <Inside model={model} waves={waves} rpm={rpm} onRpm={onRpm} top={top} />;
}
