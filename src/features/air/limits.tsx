'use client';

import { App, Button } from 'antd';
import { useState } from 'react';
import { NO_DEFAULTS } from '@/core/documents/blank';
import type { ShopDefaults } from '@/core/documents/job';
import { jobLimits, type JobLimits } from '@/core/job/bounds';
import { sizingUse } from '@/core/job/model';
import type { MeasureName } from '@/core/units/measures';
import { showQuantity } from '@/core/units/quantity';
import { DocField } from '@/features/job/field';
import { useJob } from '@/features/job/provider';
import { useSized } from '@/features/job/use-model';
import { Heading } from '@/ui/answer/stop-page';
import { send } from '@/ui/post';
import { usePrefs } from '@/ui/theme/prefs';
import { useReported } from '@/ui/reported';
import { msg } from './messages';

const USE_WORDS = {
  'na-street': 'street engines without a blower',
  'na-race': 'race engines without a blower',
  'draw-through': 'a throttle before a blower',
  'blow-through': 'a throttle behind a compressor',
} as const;

/** The limits beside the allowed loss. */
const MORE: readonly { readonly key: Exclude<keyof JobLimits, 'loss_Pa'>; readonly label: string; readonly measure: MeasureName }[] = [
  { key: 'speed_mps', label: msg.gasSpeed, measure: 'gasSpeed' },
  { key: 'benchRatio', label: msg.passesOfIdealNozzle, measure: 'share' },
  { key: 'powerShare', label: msg.powerLeftAtMost, measure: 'fineShare' },
  { key: 'idleShare', label: msg.leakOfIdleAir, measure: 'share' },
  { key: 'tipIn', label: msg.tipInTimesStock, measure: 'ratio' },
];

/** Puts this job's limits down as what the shop starts with, or takes the shop's into this job. */
function ShopLimits() {
  const { modal } = App.useApp();
  const reported = useReported();
  // The largest bore that fits belongs to this car.
  const { fit_m: _fit, ...ofAnyCar } = useJob((s) => s.doc.sizing);
  const allowedLoss_Pa = useJob((s) => s.doc.air.allowedLoss_Pa);
  const change = useJob((s) => s.change);
  const put = (defaults: ShopDefaults, done: string): Promise<void> =>
    reported(async () => {
      await send<ShopDefaults>('PUT', '/api/shop/defaults', defaults);
      return done;
    });
  const take = (): Promise<void> =>
    reported(async () => {
      const { allowedLoss_Pa: loss, ...rest } = await send<ShopDefaults>('GET', '/api/shop/defaults');
      change((doc) => ({ ...doc, sizing: { ...doc.sizing, ...rest }, air: { ...doc.air, allowedLoss_Pa: loss } }));
      return 'The shop’s limits are in this job. Undo brings the old ones back.';
    });
  return (
    <div style={{ display: 'flex', flexWrap: 'wrap', gap: 6, marginTop: 8 }}>
      <Button size="small" onClick={() => void take()}>
        {msg.takeTheShops}
      </Button>
      <Button
        size="small"
        onClick={() =>
          modal.confirm({
            title: msg.startEveryNewJobWithThese,
            content: msg.jobsThatAreThereAlreadyKeep,
            okText: msg.makeThemTheShops,
            onOk: () => put({ ...ofAnyCar, allowedLoss_Pa }, 'New jobs start with these limits.'),
          })
        }
      >
        {msg.makeTheseTheShops}
      </Button>
      <Button size="small" type="text" onClick={() => void put(NO_DEFAULTS, 'New jobs start with the usual limits again.')}>
        {msg.shopBackToUsual}
      </Button>
    </div>
  );
}

/** The limits this job's sizing holds to: the usual ones for its use, each of which can be overruled here. */
export function Limits() {
  const { pack } = usePrefs();
  const sized = useSized();
  const [open, setOpen] = useState(false);
  const usual = jobLimits({
    ...sized,
    sizing: { ...sized.sizing, speed_mps: null, benchRatio: null, powerShare: null, idleShare: null, tipIn: null },
    air: { ...sized.air, allowedLoss_Pa: null },
  });
  const usually = (si: number, measure: MeasureName): string => `usual ${showQuantity(si, measure, pack).number}`;
  return (
    <>
      <Heading
        more={
          <Button size="small" type="text" aria-expanded={open} onClick={() => setOpen(!open)}>
            {open ? 'fewer' : 'all'}
          </Button>
        }
      >
        {msg.limits}
      </Heading>
      <DocField path="air.allowedLoss_Pa" label={msg.allowedLoss} measure="loss" nullable placeholder={usually(usual.loss_Pa, 'loss')} />
      {open && (
        <>
          {MORE.map(({ key, label, measure }) => {
            const value = usual[key];
            return (
              <DocField
                key={key}
                path={`sizing.${key}`}
                label={label}
                measure={measure}
                nullable
                placeholder={value === null ? 'none' : usually(value, measure)}
              />
            );
          })}
          <DocField path="sizing.fit_m" label={msg.largestBoreThatFits} measure="bore" nullable placeholder={msg.notKnown} />
          <p className="quiet" style={{ fontSize: 13, marginTop: 6 }}>
            {msg.theUsualFiguresAreThoseFor} {USE_WORDS[sizingUse(sized)]}
            {msg.allowedLossAndGasSpeedFrom}
          </p>
          <ShopLimits />
        </>
      )}
    </>
  );
}
