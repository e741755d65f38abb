'use client';

import { isFailure } from '@/core/failure';
import { formatNumber, formatQuantity } from '@/core/units/quantity';
import type { VerdictReport } from '@/core/verdict/report';
import { predictedStripWorking } from '@/core/working/verdict-working';
import { mannersWorking } from '@/core/working/sizing-working';
import { stripEffectWorking } from '@/core/working/strip-working';
import { useJob } from '@/features/job/provider';
import { answerWord, MEASURE_NAMES, measureText } from '@/features/test/strip/words';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import { msg } from './messages';

const MEASURES_OF = { trap_mps: 'roadSpeed', et_s: 'time', sixty_s: 'time' } as const;

/** Predicted against measured at the strip. */
export function StripTable({ report }: { report: VerdictReport }) {
  const { pack } = usePrefs();
  const { strip } = report.facts;
  if (!strip) return null;
  const said = report.predictedStrip;
  const rows = (['trap_mps', 'et_s', 'sixty_s'] as const).flatMap((m) => {
    const e = strip.effects[m];
    return isFailure(e)
      ? []
      : [{ m, e, said: said === null || m === 'sixty_s' ? null : (m === 'trap_mps' ? said.trap_share : said.et_share) * e.meanA }];
  });
  if (rows.length === 0) return null;
  return (
    <div className="wide-table" tabIndex={0}>
      <table className="plain">
        <thead>
          <tr>
            <th>{msg.stripNewAgainstStock}</th>
            <th className="num">{msg.predicted}</th>
            <th className="num">{msg.measured}</th>
            <th className="num">{msg.n95Interval}</th>
            <td />
          </tr>
        </thead>
        <tbody>
          {rows.map(({ m, e, said: p }) => (
            <tr key={m}>
              <td>{MEASURE_NAMES[m]}</td>
              <td className="num">
                {p === null ? (
                  '—'
                ) : (
                  <Num
                    small
                    label={`predicted ${MEASURE_NAMES[m]}`}
                    working={() => predictedStripWorking(MEASURES_OF[m], e.meanA, 3 * said!.trap_share, p)}
                  >
                    {measureText(m, p, pack, true)}
                  </Num>
                )}
              </td>
              <td className="num">
                <Num
                  small
                  label={`effect on the ${MEASURE_NAMES[m]}`}
                  working={() => stripEffectWorking(e, `Effect on the ${MEASURE_NAMES[m]}`, MEASURES_OF[m], [])}
                >
                  {measureText(m, e.answer.estimate, pack, true)}
                </Num>
              </td>
              <td className="num">
                {measureText(m, e.answer.low, pack, true)} {msg.to} {measureText(m, e.answer.high, pack, true)}
              </td>
              <td>{answerWord(e.answer.word)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Idle, the answer to the throttle and the inlet air: expected and as logged. */
export function MannersTable({ report }: { report: VerdictReport }) {
  const { pack } = usePrefs();
  const doc = useJob((s) => s.doc);
  const idle = doc.car.engine.idle_rpm;
  const { manners, inletAir } = report.facts;
  const r = report.ranked;
  const rpm = (v: number | null | undefined): string => (v === null || v === undefined ? '—' : `${formatNumber(v, 0)} rpm`);
  const s = (v: number | null | undefined): string => (v === null || v === undefined ? '—' : `${formatNumber(v, 2)} s`);
  return (
    <div className="wide-table" tabIndex={0}>
      <table className="plain">
        <thead>
          <tr>
            <th>{msg.drivability}</th>
            <th className="num">{msg.expected}</th>
            <th className="num">{msg.stockLogged}</th>
            <th className="num">{msg.newLogged}</th>
          </tr>
        </thead>
        <tbody>
          <tr>
            <td>{msg.idle}</td>
            <td className="num">
              {r?.idleFloor_rpm && r.idleFloor_rpm > idle ? `not below ${rpm(r.idleFloor_rpm)}` : `${rpm(idle)} can be held`}
            </td>
            <td className="num">{rpm(manners?.stock.idle_rpm)}</td>
            <td className="num">{rpm(manners?.other.idle_rpm)}</td>
          </tr>
          <tr>
            <td>{msg.tipInFirstTenthOfThe}</td>
            <td className="num">
              {r ? (
                <Num small label={msg.tipInAndIdle} working={() => mannersWorking(doc, r)}>
                  {`${formatNumber(r.tipInRatio, 2)} × the area (up to ${formatNumber(r.tipInLimit, 1)} ×)`}
                </Num>
              ) : (
                '—'
              )}
            </td>
            <td className="num">{s(manners?.stock.air_s)}</td>
            <td className="num">{s(manners?.other.air_s)}</td>
          </tr>
          <tr>
            <td>{msg.inletAirInTheRuns}</td>
            <td className="num">—</td>
            <td className="num">{inletAir ? formatQuantity(inletAir.a_K, 'temperature', pack) : '—'}</td>
            <td className="num">{inletAir ? formatQuantity(inletAir.b_K, 'temperature', pack) : '—'}</td>
          </tr>
        </tbody>
      </table>
    </div>
  );
}
