'use client';

import { DatePicker } from 'antd';
import dayjs from 'dayjs';
import { useEffect, useState } from 'react';
import type { ShopSettings } from '@/core/documents/shop';
import { SIZES } from '@/core/inference/grid';
import { RIG_ROWS } from '@/core/inference/rig';
import { KEPT_RIGS, type KeptRig, type ShopHistory } from '@/core/inference/shop-history';
import { formatNumber } from '@/core/units/quantity';
import { ControlRow } from '@/ui/field/field-row';
import { send } from '@/ui/post';
import { msg } from './messages';
import type { SettingsState } from './use-settings';

const NAMES: Readonly<Record<KeptRig, string>> = {
  dyno: 'dyno, % of power',
  stripTime: 'strip, time in s',
  stripSpeed: 'strip, speed in m/s',
};
const SIZE_NAMES = { run: 'single run', refit: 'refit', day: 'day' } as const;
const DECIMALS: Readonly<Record<KeptRig, number>> = { dyno: 2, stripTime: 3, stripSpeed: 2 };

/** What the shop's own studies say of runs, refits and days: assumed → own; and since when the rigs are what they are. */
export function OwnHistory({ doc, save }: { doc: ShopSettings; save: SettingsState['save'] }) {
  const [history, setHistory] = useState<ShopHistory | null>(null);
  const { dyno, strip } = doc.rigChanged;
  useEffect(() => {
    let current = true;
    send<ShopHistory>('GET', '/api/shop/history')
      .then((h) => current && setHistory(h))
      // Without it the assumptions stand, and say so.
      .catch(() => {});
    return () => {
      current = false;
    };
  }, [dyno, strip]);
  const shown = KEPT_RIGS.filter((rig) => history?.[rig]);
  return (
    <>
      {shown.length === 0 ? (
        <p className="quiet">{msg.noStudyOfThisShopsOwn}</p>
      ) : (
        <div className="wide-table" tabIndex={0}>
          <table className="plain" aria-label={msg.howThisShopRepeats}>
            <thead>
              <tr>
                <th>{msg.movedByOne}</th>
                {SIZES.map((s) => (
                  <th key={s} className="num">
                    {SIZE_NAMES[s]}
                  </th>
                ))}
                <th className="num">{msg.studies}</th>
              </tr>
            </thead>
            <tbody>
              {shown.map((rig) => {
                const own = history![rig]!;
                const text = (v: number): string => formatNumber(v, DECIMALS[rig]);
                return (
                  <tr key={rig}>
                    <td>{NAMES[rig]}</td>
                    {SIZES.map((s) => (
                      <td key={s} className="num">
                        {text(RIG_ROWS[rig][s])} → {text(own[s])} <small className="quiet">{own.known[s]}</small>
                      </td>
                    ))}
                    <td className="num">{own.studies}</td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
      )}
      {(['dyno', 'strip'] as const).map((rig) => (
        <ControlRow key={rig} label={rig === 'dyno' ? 'New dyno or other straps since' : 'Other tyres or driver since'}>
          <DatePicker
            aria-label={rig === 'dyno' ? 'New dyno or other straps since' : 'Other tyres or driver since'}
            style={{ width: '100%' }}
            format="D MMM YYYY"
            value={doc.rigChanged[rig] ? dayjs(doc.rigChanged[rig]) : null}
            onChange={(d) => save((now) => ({ rigChanged: { ...now.rigChanged, [rig]: d ? d.format('YYYY-MM-DD') : null } }))}
          />
        </ControlRow>
      ))}
      <p className="quiet">{msg.studiesBeforeSuchADayAnd}</p>
    </>
  );
}
