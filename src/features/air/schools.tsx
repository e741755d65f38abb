'use client';

import { useMemo } from 'react';
import { jobBounds } from '@/core/job/bounds';
import type { JobModel } from '@/core/job/model';
import { grossBore } from '@/core/documents/openings';
import { jobSchools, type School, type SchoolKey } from '@/core/job/schools';
import { schoolWorking } from '@/core/working/school-working';
import { coarse } from '@/core/units/measures';
import { formatQuantity } from '@/core/units/quantity';
import { useJob } from '@/features/job/provider';
import { useSized } from '@/features/job/use-model';
import { Heading } from '@/ui/answer/stop-page';
import { rpmText } from '@/ui/answer/words';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import { msg } from './messages';

/** What each school goes by, and why its answer differs from the others'. */
const WORDS: Readonly<Record<SchoolKey, { name: string; why: string }>> = {
  displacement: { name: 'displacement and rpm', why: 'as good as its efficiency; carried to a bore at the allowed loss' },
  power: { name: 'power', why: 'as good as its fuel figures; knows nothing of how the engine breathes' },
  meter: { name: 'the car’s own MAF', why: 'what really went in, if meter and clock agree' },
  'bench rating': {
    name: 'catalogue flow at 28 inH₂O',
    why: 'a bore whose rating equals the demand loses that whole depression: far too small',
  },
  'gas speed': { name: 'gas speed', why: 'a habit: blind to shape, entry and density' },
  loss: { name: 'pressure lost', why: 'the throttle’s own loss at the allowed figure, in the air it sees' },
  'power left': { name: 'power lost to the throttle', why: 'the whole path and engine solved: what the others stand in for' },
};

/** The quarrel settled side by side: every school's smallest bore, with the flow it goes by and why it differs. */
export function Schools({ model }: { model: JobModel }) {
  const { pack } = usePrefs();
  const sized = useSized();
  const marks = useJob((s) => s.doc.marks);
  const { schools, bounds } = useMemo(() => {
    const found = jobBounds(sized, model);
    return { bounds: found, schools: jobSchools(sized, model, found) };
  }, [sized, model]);
  const now = grossBore(sized.car.stock.throttle);
  const bore = (s: School): string => (s.bore_m === null ? '—' : formatQuantity(s.bore_m, 'bore', pack, coarse('bore', pack)));
  return (
    <section>
      <Heading
        more={
          <span className="quiet">
            {msg.smallestBoreAt} {rpmText(bounds.worst.rpm)}
            {msg.whereTheThrottleWorksHardest}
          </span>
        }
      >
        {msg.waysToSizeItAndWhy}
      </Heading>
      <table className="plain">
        <thead>
          <tr>
            <th>{msg.school}</th>
            <th className="num">{msg.needs}</th>
            <th className="num">{msg.bore2}</th>
            <th>{msg.whyItDiffers}</th>
          </tr>
        </thead>
        <tbody>
          {schools.map((s) => (
            <tr key={s.key}>
              <td>{WORDS[s.key].name}</td>
              <td className="num">{s.massFlow_kgps === null ? '—' : formatQuantity(s.massFlow_kgps, 'massFlow', pack)}</td>
              <td className="num">
                {s.bore_m === null ? (
                  '—'
                ) : (
                  <Num small label={`bore by ${WORDS[s.key].name}`} working={() => schoolWorking({ ...sized, marks }, bounds, s)}>
                    {bore(s)}
                  </Num>
                )}
                {s.bore_m !== null && s.bore_m <= now ? ' ✓' : ''}
              </td>
              <td className="quiet">{s.key === 'meter' && s.massFlow_kgps === null ? 'no log on the Car step yet' : WORDS[s.key].why}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="quiet" style={{ fontSize: 13, marginTop: 4 }}>
        {msg.theStockBoreIsEnoughBy}
      </p>
    </section>
  );
}
