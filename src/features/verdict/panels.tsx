'use client';

import { Button, Input, Select } from 'antd';
import { useState } from 'react';
import type { AdviceWord } from '@/core/documents/verdict';
import { ADVICE } from '@/core/documents/kinds';
import { COST } from '@/core/documents/within';
import { shownUnit } from '@/core/units/measures';
import { formatQuantity, formatSigned } from '@/core/units/quantity';
import type { Unpriced } from '@/core/verdict/cost';
import type { VerdictReport } from '@/core/verdict/report';
import { FEWEST_SIMILAR, similarEngines, type FinishedJob } from '@/core/verdict/similar';
import { costWorking, pooledWorking } from '@/core/working/verdict-working';
import { restrictionWorking } from '@/core/working/bore-working';
import { DocField } from '@/features/job/field';
import { useJob } from '@/features/job/provider';
import { Heading, Pair } from '@/ui/answer/stop-page';
import { Unbroken } from '@/ui/answer/unbroken';
import { FieldRow } from '@/ui/field/field-row';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import { ADVICE_TITLES, reasonWords } from './words';
import styles from './verdict.module.css';
import { msg } from './messages';

const pct = (v: number): string => formatSigned(v, 1, '%');

/** Why the advice is what it is; and where a person decides otherwise, why. */
export function Reasons({ report }: { report: VerdictReport }) {
  const { pack } = usePrefs();
  const override = useJob((s) => s.doc.verdict.override);
  return (
    <>
      <Heading>{msg.why}</Heading>
      {override && (
        <p className={styles['decided']}>
          <b>
            {msg.decidedByHand}
            {override.by ? ` (${override.by})` : ''}: {ADVICE_TITLES[override.advice].toLowerCase()}.
          </b>{' '}
          {override.reason} {msg.theFiguresByThemselvesSay} {ADVICE_TITLES[report.advice.word].toLowerCase()}.
        </p>
      )}
      <ul className={styles['reasons']}>
        {report.advice.reasons.map((r, i) => (
          <li key={i} data-kind={r.code}>
            <Unbroken>{reasonWords(r, pack)}</Unbroken>
          </li>
        ))}
      </ul>
    </>
  );
}

/** Money is per hour, times are in seconds. */
const HOUR_s = 3600;

/** A person may decide otherwise, with a reason that stands on the page. */
export function Override({ report, people }: { report: VerdictReport; people: readonly string[] }) {
  const override = useJob((s) => s.doc.verdict.override);
  const set = useJob((s) => s.set);
  const [open, setOpen] = useState(false);
  const [advice, setAdvice] = useState<AdviceWord>(report.advice.word);
  const [reason, setReason] = useState('');
  const [by, setBy] = useState('');
  if (override)
    return (
      <Button size="small" onClick={() => set('verdict.override', null)}>
        {msg.letTheFiguresDecideAgain}
      </Button>
    );
  if (!open)
    return (
      <Button size="small" onClick={() => setOpen(true)}>
        {msg.decideOtherwise}
      </Button>
    );
  return (
    <div className={styles['override']}>
      <Select
        aria-label={msg.decide}
        value={advice}
        options={ADVICE.map((value) => ({ value, label: ADVICE_TITLES[value] }))}
        onChange={setAdvice}
      />
      <Input
        aria-label={msg.why}
        placeholder={msg.whyItIsPrintedBesideIt}
        maxLength={400}
        value={reason}
        onChange={(e) => setReason(e.target.value)}
      />
      <Input
        aria-label={msg.whoDecides}
        placeholder={msg.workingAs}
        list="people"
        maxLength={60}
        value={by}
        onChange={(e) => setBy(e.target.value)}
      />
      <datalist id="people">
        {people.map((n) => (
          <option key={n} value={n} />
        ))}
      </datalist>
      <Button
        type="primary"
        size="small"
        disabled={reason.trim() === ''}
        onClick={() => {
          set('verdict.override', { advice, reason: reason.trim(), by: by.trim() });
          setOpen(false);
        }}
      >
        {msg.decide}
      </Button>
      <Button size="small" type="text" onClick={() => setOpen(false)}>
        {msg.notNow}
      </Button>
    </div>
  );
}

const UNPRICED: Readonly<Record<Unpriced, string>> = {
  unfair: 'the comparison is unfair',
  "can't tell yet": 'can’t tell yet',
  'nothing gained': 'nothing gained',
  'no price': 'The throttle has no price: enter one on the Shelf and the gain has its cost.',
};

/** What it cost, what it gained, and what a unit of power cost, with the interval of the gain. */
export function Money({ report, hourly }: { report: VerdictReport; hourly: number }) {
  const { pack, money } = usePrefs();
  const power = shownUnit('power', pack).unit;
  const { cost } = report;
  const fitting = useJob((s) => s.doc.verdict.fitting);
  const set = useJob((s) => s.set);
  const price = report.unit?.doc.price ?? null;
  const per = (v: number): string => money(v * power.factor);
  return (
    <>
      <Heading>{msg.worthIt}</Heading>
      <Pair name={report.unit?.doc.name ?? 'the throttle'}>
        <span>{price === null ? 'no price entered' : money(price)}</span>
      </Pair>
      <DocField path="verdict.otherParts" label={msg.otherParts} measure="money" mark={null} />
      <DocField path="verdict.fitting" label={msg.fitting} measure="money" mark={null} />
      {hourly > 0 && (
        <FieldRow
          label={msg.orItsHours}
          measure="hours"
          value={(fitting / hourly) * HOUR_s}
          within={{ least: 0, most: (COST.most / hourly) * HOUR_s }}
          onChange={(t_s) => set('verdict.fitting', (t_s / HOUR_s) * hourly)}
        />
      )}
      {cost ? (
        <>
          <Pair name="Testing, by the plan and fees">
            <span>{money(cost.testing)}</span>
          </Pair>
          <Pair name={<b>{msg.together}</b>}>
            <b>{money(cost.total)}</b>
          </Pair>
          <Pair name="Gained where it decides">
            <span>
              {cost.unpriced === 'unfair' || cost.unpriced === "can't tell yet"
                ? UNPRICED[cost.unpriced]
                : `${cost.gain_W > 0 ? '+' : ''}${formatQuantity(cost.gain_W, 'power', pack)}`}
            </span>
          </Pair>
          <Pair name={`Each ${power.label} gained`}>
            {cost.perW === null ? (
              <span>{cost.unpriced === 'nothing gained' ? UNPRICED[cost.unpriced] : '—'}</span>
            ) : (
              <Num small label={msg.costOfTheGain} working={() => costWorking(cost)}>
                {per(cost.perW)}
              </Num>
            )}
          </Pair>
          {cost.unpriced === 'no price' && <p className="quiet">{UNPRICED['no price']}</p>}
          {cost.perW !== null && (
            <p className="quiet">
              {cost.dear === null
                ? `${per(cost.cheap!)} at best; the gain’s interval reaches nothing, so it could have cost any amount for it.`
                : `${per(cost.cheap!)} to ${per(cost.dear)} by the interval of the gain.`}
            </p>
          )}
        </>
      ) : (
        <p className="quiet">{msg.aCostOfTheGainWants}</p>
      )}
    </>
  );
}

/** What holds the engine back next, and what a step more of boost would make of this throttle. */
export function Next({ report }: { report: VerdictReport }) {
  const { pack } = usePrefs();
  const name = report.unit?.doc.name ?? 'the throttle';
  const w = report.whatIf;
  const then = w?.sides.find((s) => s.id !== 'stock');
  return (
    <>
      <Heading>{msg.whatIsNext}</Heading>
      {report.next.length === 0 && <p className="quiet">{msg.withoutAThrottleThereIsNo}</p>}
      {report.next.map((r) => (
        <Pair key={`${r.part}${r.name}`} name={r.name}>
          <Num small label={`what the ${r.name} costs`} working={() => restrictionWorking(r, name)}>
            {pct(r.gain_pct)}
          </Num>
        </Pair>
      ))}
      {report.next.length > 0 && <p className="quiet">{msg.peakPowerByTheModelIf}</p>}
      {w && then && (
        <p>
          {msg.withWord} {formatQuantity(w.boostThen_Pa, 'plenum', pack)} {msg.ofBoostInsteadOf}{' '}
          {formatQuantity(w.boostNow_Pa, 'plenum', pack)}
          {then.gain_pct === null ? ` ${name} cannot be solved.` : ` ${name} would bring ${pct(then.gain_pct)} over stock`}
          {then.gain_pct !== null && report.predicted ? `, against ${pct(report.predicted.peak_pct)} now.` : ''}
        </p>
      )}
    </>
  );
}

/** What units did on engines like this one, in this shop. */
export function Similar({ finished }: { finished: readonly FinishedJob[] | null }) {
  const id = useJob((s) => s.id);
  const induction = useJob((s) => s.doc.car.induction.kind);
  const displacement_m3 = useJob((s) => s.doc.car.engine.displacement_m3);
  if (!finished) return null;
  const { jobs, pooled } = similarEngines(finished, { id, induction, displacement_m3 });
  return (
    <>
      <Heading>{msg.enginesLikeThisOneHere}</Heading>
      {jobs.length === 0 ? (
        <p className="quiet">{msg.noneOfThisShopsOtherFinished}</p>
      ) : (
        <>
          {jobs.slice(0, 5).map((j) => (
            <Pair key={j.id} name={`${j.name}, ${j.unit}`}>
              <span>
                {pct(j.mean_pct)} ({formatSigned(j.low_pct, 1)} {msg.to} {formatSigned(j.high_pct, 1)})
              </span>
            </Pair>
          ))}
          <p className="quiet">
            {pooled ? (
              <>
                {msg.together2}{' '}
                <Num small label={msg.theJobsTogether} working={() => pooledWorking({ jobs, pooled })}>
                  {pct(pooled.mean_pct)}
                </Num>
                {`, ${formatSigned(pooled.low_pct, 1)} to ${formatSigned(pooled.high_pct, 1, '%')}, from ${jobs.length} jobs and how much they differ.`}
              </>
            ) : (
              `${jobs.length === 1 ? 'One job says' : `${jobs.length} jobs say`} nothing of a kind: ${FEWEST_SIMILAR} at least would.`
            )}
          </p>
        </>
      )}
    </>
  );
}

/** Who expected what, and how near they came. */
export function Ledger({ report }: { report: VerdictReport }) {
  const { guesses } = report.facts;
  if (guesses.length === 0) return <p className="quiet">{msg.nobodyWroteAnExpectationDownBefore}</p>;
  return (
    <div className="wide-table" tabIndex={0}>
      <table className="plain">
        <thead>
          <tr>
            <th>{msg.who}</th>
            <th className="num">{msg.expected}</th>
            <th className="num">{msg.range}</th>
            <th className="num">{msg.offBy}</th>
            <th>{msg.insideItsOwnRange}</th>
          </tr>
        </thead>
        <tbody>
          {guesses.map((g) => (
            <tr key={g.id}>
              <td>{g.source}</td>
              <td className="num">{pct(g.predicted)}</td>
              <td className="num">
                {formatSigned(g.low, 1)} {msg.to} {formatSigned(g.high, 1)}
              </td>
              <td className="num">{g.measured === null ? 'not scored' : formatSigned(g.predicted - g.measured, 1, '%')}</td>
              <td>{g.measured === null ? '—' : g.measured >= g.low && g.measured <= g.high ? 'yes' : 'no'}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
