'use client';

import type { SideComparison } from '@/core/compare/sides';
import { shownUnit } from '@/core/units/measures';
import { formatNumber, formatSigned } from '@/core/units/quantity';
import { fromSI } from '@/core/units/units';
import { noiseWorking, peakWorking, thirdWorking } from '@/core/working/test-working';
import { useJob } from '@/features/job/provider';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import { THIRDS } from './words';
import styles from './test.module.css';

/** The comparison in figures: thirds against the noise, peaks smoothed and as measured. */
export function Numbers({ c }: { c: SideComparison }) {
  const { pack } = usePrefs();
  const fwhm = useJob((s) => s.doc.test.fwhm_rpm);
  const power = shownUnit('power', pack).unit;
  const show = (w: number): string => formatNumber(fromSI(w, power), 1);
  return (
    <div className={styles['tables']}>
      <table className="plain">
        <thead>
          <tr>
            <th>mean over</th>
            <th className="num">{power.label}</th>
            <th className="num">difference</th>
          </tr>
        </thead>
        <tbody>
          {c.bandMean_pct.map((p, i) => (
            <tr key={THIRDS[i]}>
              <td>{THIRDS[i]}</td>
              <td className="num">{formatSigned(fromSI(c.bandMean_W[i]!, power), 1)}</td>
              <td className="num">
                <Num small label={THIRDS[i]!} working={() => thirdWorking(c, i as 0 | 1 | 2, fwhm)}>
                  {formatSigned(p, 1, '%')}
                </Num>
              </td>
            </tr>
          ))}
          <tr>
            <td>noise alone, 95 %</td>
            <td />
            <td className="num">
              <Num small label="noise" working={() => noiseWorking(c)}>
                ±{formatNumber(c.noise_pct, 1)} %
              </Num>
            </td>
          </tr>
        </tbody>
      </table>
      <table className="plain">
        <thead>
          <tr>
            <th>peak, {power.label}</th>
            <th className="num">smoothed</th>
            <th className="num">at rpm</th>
            <th className="num">as measured</th>
          </tr>
        </thead>
        <tbody>
          {(
            [
              ['stock', c.peakA],
              ['new', c.peakB],
            ] as const
          ).map(([name, p]) => (
            <tr key={name}>
              <td>{name}</td>
              <td className="num">{show(p.smoothed_W)}</td>
              <td className="num">{formatNumber(p.smoothed_rpm, 0)}</td>
              <td
                className="num"
                title={`${formatSigned(fromSI(p.difference_W, power), 1)} over the smoothed: never compare it with a smoothed one`}
              >
                {show(p.unsmoothed_W)}
              </td>
            </tr>
          ))}
          <tr>
            <td>difference</td>
            <td className="num">
              <Num small label="peak against peak" working={() => peakWorking(c)}>
                {formatSigned(100 * (c.peakB.smoothed_W / c.peakA.smoothed_W - 1), 1, '%')}
              </Num>
            </td>
            <td className="num quiet" colSpan={2}>
              unsmoothed {formatSigned(100 * (c.peakB.unsmoothed_W / c.peakA.unsmoothed_W - 1), 1, '%')}
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  );
}
