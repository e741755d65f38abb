'use client';

import { Select } from 'antd';
import { parseAsString, useQueryState } from 'nuqs';
import { useEffect, useState } from 'react';
import type { StoredJob } from '@/core/documents/job';
import { isFailure } from '@/core/failure';
import { jobModel } from '@/core/job/model';
import { chainOf, type ChainLink } from '@/core/job/restriction';
import type { StoredUnit } from '@/core/documents/unit';
import { formatQuantity } from '@/core/units/quantity';
import { linkWorking } from '@/core/working/bore-working';
import { Heading } from '@/ui/answer/stop-page';
import { failureText } from '@/ui/answer/words';
import { send } from '@/ui/post';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import styles from './bench.module.css';
import { msg } from './messages';

/** The intake of a job as links of a chain: what each would pass alone, against the throttle it leads to. */
export function Chain({ jobs, units }: { jobs: readonly { id: string; name: string }[]; units: readonly StoredUnit[] }) {
  const { pack } = usePrefs();
  const [jobId, setJobId] = useQueryState('job', parseAsString.withDefault(jobs[0]?.id ?? ''));
  const [unitId, setUnitId] = useQueryState('with', parseAsString.withDefault('stock'));
  const [loaded, setLoaded] = useState<{ id: string; job: StoredJob | null; wrong: string | null } | null>(null);
  useEffect(() => {
    let current = true;
    if (jobId === '') return;
    void send<StoredJob>('GET', `/api/jobs/${jobId}`).then(
      (job) => current && setLoaded({ id: jobId, job, wrong: null }),
      (error: Error) => current && setLoaded({ id: jobId, job: null, wrong: error.message }),
    );
    return () => {
      current = false;
    };
  }, [jobId]);
  const now = loaded?.id === jobId ? loaded : null;
  const job = now?.job ?? null;
  const unit = units.find((u) => u.id === unitId);
  const model = job ? jobModel(job.doc, unit ? [{ unit, opening: 'matched' }] : []) : null;
  const side = model && !isFailure(model) ? (model.candidates[0] ?? model.stock) : null;
  const links: ChainLink[] =
    model && side && !isFailure(model)
      ? [...(model.before ? chainOf(model.before.path.parts) : []), ...chainOf(side.path.parts, model.offset)]
      : [];
  const most = Math.max(...links.map((l) => l.flow_m3ps ?? 0), 1e-9);
  const throttle = links.find((l) => l.type === 'throttle')?.flow_m3ps ?? null;
  const short = links.filter((l) => l.short);
  const nameOf = (l: ChainLink): string =>
    l.type === 'throttle' ? (side?.id === 'stock' ? 'stock throttle' : side!.name) : (job?.doc.air.parts[l.part]?.name ?? l.name);
  return (
    <section>
      <Heading more={<span className="quiet">{msg.eachPartAloneAt28Inh2o}</span>}>{msg.theWholeIntake}</Heading>
      <div className={styles['tools']}>
        <Select
          aria-label={msg.job}
          size="small"
          style={{ minWidth: 180 }}
          value={jobId}
          options={jobs.map((j) => ({ value: j.id, label: j.name }))}
          onChange={(v) => void setJobId(v)}
        />
        <Select
          aria-label={msg.withWord}
          size="small"
          style={{ minWidth: 180 }}
          value={unit ? unitId : 'stock'}
          options={[{ value: 'stock', label: msg.stockThrottle }, ...units.map((u) => ({ value: u.id, label: u.doc.name }))]}
          onChange={(v) => void setUnitId(v)}
        />
      </div>
      {(now?.wrong || isFailure(model)) && <p role="alert">{isFailure(model) ? failureText(model, pack) : now?.wrong}</p>}
      {links.length > 0 && (
        <>
          <p>
            {short.length === 0
              ? 'Everything ahead of the throttle passes more than it does: it is the narrowest link.'
              : `${short.map(nameOf).join(' and ')} ${short.length === 1 ? 'passes' : 'pass'} less than the throttle: a larger one gains little before ${short.length === 1 ? 'that is' : 'those are'} mended.`}
          </p>
          <div className="wide-table" tabIndex={0}>
            <table className={styles['chain']}>
              <tbody>
                {links.map((l) => (
                  <tr key={l.part} data-short={l.short} data-throttle={l.type === 'throttle'}>
                    <td>{nameOf(l)}</td>
                    <td className={styles['barCell']}>
                      <i style={{ width: `${(100 * (l.flow_m3ps ?? 0)) / most}%` }} />
                      {throttle !== null && <b style={{ left: `${(100 * throttle) / most}%` }} />}
                    </td>
                    <td className="num">
                      {l.flow_m3ps === null ? (
                        '—'
                      ) : (
                        <Num small label={`flow of the ${nameOf(l)} alone`} working={() => linkWorking({ ...l, name: nameOf(l) })}>
                          {formatQuantity(l.flow_m3ps, 'benchFlow', pack)}
                        </Num>
                      )}
                    </td>
                    <td className="quiet">{l.basis?.from === 'reading' ? 'measured' : 'from its shape'}</td>
                    <td>{l.short ? 'short' : ''}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </>
      )}
    </section>
  );
}
