'use client';

import { useMemo } from 'react';
import { plenumBest_rpm, runnerRules } from '@/core/waves/rules';
import { bottleSpeed, crestSpeed, plenumWorking, runnerWorking } from '@/core/working/wave-working';
import { formatNumber } from '@/core/units/quantity';
import { useJob } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop-page';
import { Num } from '@/ui/working/provider';
import { msg } from './messages';
import { topOf, type WaveCurves, type Waves } from './use-waves';
import { rpmWords } from './words';

/** Crests looked at, and told at most. */
const CRESTS = 12;
const CRESTS_TOLD = 4;

/** The two rules of thumb, and the plenum's, beside what the model finds. */
export function Rules({ waves, curves }: { waves: Waves; curves: WaveCurves }) {
  const engine = useJob((s) => s.doc.car.engine);
  const { runner, crests, plenum } = useMemo(() => {
    const f = waves.trial;
    const made = waves.setup.engineAt(f, curves.rpm.at(-1)!);
    const swept_m3 = engine.displacement_m3 / engine.cylinders;
    const bore_m = (f.mouthBore_m + f.valveBore_m) / 2;
    const T_K = made.inletT_K ?? made.ambient?.T_K ?? 298.15;
    const runner = {
      length_m: f.length_m,
      bore_m,
      mouth: { edgeRadius_m: f.edgeRadius_m, kind: made.plenum ? ('flanged' as const) : ('plain' as const) },
      swept_m3,
      compressionRatio: engine.compressionRatio,
      T_K,
      duration_rad: f.inletDuration_rad,
    };
    const { quarterWave_Hz } = runnerRules(runner);
    const pipe = made.pipe?.segments;
    return {
      runner,
      crests: Array.from({ length: CRESTS }, (_, n) => crestSpeed(quarterWave_Hz, n + 1)).filter(
        (n) => n >= curves.rpm[0]! && n <= curves.rpm.at(-1)!,
      ),
      plenum:
        made.plenum && pipe
          ? {
              bore_m: pipe.at(-1)!.outBore_m,
              length_m: pipe.reduce((sum, s) => sum + s.length_m, 0) + 0.3 * pipe[0]!.inBore_m,
              volume_m3: made.plenum.volume_m3 + engine.cylinders * f.length_m * (Math.PI / 4) * bore_m ** 2,
              swept_m3,
              cylinders: engine.cylinders,
              T_K,
            }
          : null,
    };
  }, [waves, curves.rpm, engine]);
  const bottle = bottleSpeed(runner);
  const working = () => runnerWorking(runner, crests[0] ?? bottle);
  const top = curves.complete ? topOf(curves.rpm, curves.trial) : null;
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
            <td className="num">
              <Num small label={msg.helmholtz} working={working}>
                {rpmWords(bottle)}
              </Num>
            </td>
          </tr>
          <tr>
            <td>{msg.ripple}</td>
            <td className="num">
              {crests.length === 0 ? (
                'none in the range'
              ) : (
                <Num small label={msg.ripple} working={working}>
                  {`${crests
                    .slice(0, CRESTS_TOLD)
                    .map((n) => formatNumber(Math.round(n / 50) * 50, 0))
                    .join(', ')} rpm`}
                </Num>
              )}
            </td>
          </tr>
          {plenum !== null && (
            <tr>
              <td>{msg.plenumTone}</td>
              <td className="num">
                <Num small label={msg.plenumTone} working={() => plenumWorking(plenum)}>
                  {rpmWords(plenumBest_rpm(plenum))}
                </Num>
              </td>
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
