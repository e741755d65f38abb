'use client';

import { useMemo } from 'react';
import type { JobModel, ModelSide } from '@/core/job/model';
import { chainOf, nextRestrictions } from '@/core/job/restriction';
import { formatQuantity, formatSigned } from '@/core/units/quantity';
import { linkWorking, restrictionWorking } from '@/core/working/bore-working';
import { useJob } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop-page';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import { msg } from './messages';

const MOST_ROWS = 5;

/** With a throttle on: which part of the path costs most next, what taking it away would bring, and whether all pass more than the throttle. */
export function InTheWay({ model, side }: { model: JobModel; side: ModelSide }) {
  const { pack } = usePrefs();
  const jobParts = useJob((s) => s.doc.air.parts);
  const rows = useMemo(() => nextRestrictions(model, side).slice(0, MOST_ROWS), [model, side]);
  const chain = useMemo(
    () => [...(model.before ? chainOf(model.before.path.parts) : []), ...chainOf(side.path.parts, model.offset)],
    [model, side],
  );
  const flowOf = (part: number): (typeof chain)[number] | undefined => chain.find((l) => l.part === part);
  const nameOf = (part: number, name: string): string => jobParts[part]?.name ?? name;
  const short = chain.filter((l) => l.short);
  return (
    <section>
      <Heading more={<span className="quiet">{msg.eachTriedAlone}</span>}>
        {msg.nextRestrictionWith} {side.name} {msg.on}
      </Heading>
      <table className="plain">
        <thead>
          <tr>
            <th>{msg.part}</th>
            <th className="num">{msg.loses}</th>
            <th className="num">{msg.worth}</th>
            <th className="num">{msg.passesAt28Inh2o}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => {
            const link = flowOf(r.part);
            return (
              <tr key={r.part}>
                <td>{nameOf(r.part, r.name)}</td>
                <td className="num">{formatQuantity(r.loss_Pa, 'loss', pack)}</td>
                <td className="num">
                  <Num small label={`worth of the ${nameOf(r.part, r.name)}`} working={() => restrictionWorking(r, nameOf(r.part, r.name))}>
                    {formatSigned(r.gain_pct, 1, '%')}
                  </Num>
                </td>
                <td className="num">
                  {link?.flow_m3ps == null ? (
                    '—'
                  ) : (
                    <Num
                      small
                      label={`flow of the ${nameOf(r.part, r.name)} alone`}
                      working={() => linkWorking({ ...link, name: nameOf(r.part, r.name) })}
                    >
                      {formatQuantity(link.flow_m3ps, 'benchFlow', pack)}
                    </Num>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="quiet" style={{ fontSize: 13, marginTop: 4 }}>
        {short.length === 0
          ? 'Everything ahead of the throttle passes more than it does.'
          : `These flow less than the throttle: ${short.map((l) => nameOf(l.part, l.name)).join(', ')}.`}
      </p>
    </section>
  );
}
