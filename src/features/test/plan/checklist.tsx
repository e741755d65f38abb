'use client';

import { App, Button } from 'antd';
import { isAsWritten, planRuns, writtenNow } from '@/core/compare/look';
import { issueLine } from '@/core/documents/issue-text';
import { staysOf } from '@/core/inference/study';
import type { HeldThing } from '@/core/compare/holds';
import { formatNumber, formatQuantity } from '@/core/units/quantity';
import { useJob, useRuns, useShelf } from '@/features/job/provider';
import type { JobDoc } from '@/core/documents/job';
import type { WrittenPlanDoc } from '@/core/documents/plan';
import type { StoredUnit } from '@/core/documents/unit';
import { isFailure } from '@/core/failure';
import { jobModel } from '@/core/job/model';
import { predictionOf } from '@/core/job/predicted';
import { sortedByTime } from '@/core/runs/order';
import { Heading } from '@/ui/answer/stop-page';
import { usePrefs } from '@/ui/theme/prefs';
import type { CompareReply } from '../dyno/compare.worker';
import styles from '../test.module.css';
import planStyles from './plan.module.css';
import { msg } from './messages';

const HOLD_WORDS: Readonly<Record<HeldThing['key'], string>> = {
  inletAir_K: 'Inlet air at the start of each pull',
  coolant_K: 'Coolant at the start of each pull',
  density: 'Density of the air',
  gear: 'The same gear',
  tune: 'The same tune',
  fuel: 'The same fuel',
  pulley: 'The same pulley',
  sameDay: 'One day',
};

function stateWords(h: HeldThing, pack: Parameters<typeof formatQuantity>[2]): string {
  const within =
    h.limit === null ? '' : h.key === 'density' ? `${formatNumber(100 * h.limit, 1)} %` : formatQuantity(h.limit, 'temperatureRise', pack);
  const spread =
    h.spread === null
      ? ''
      : h.key === 'density'
        ? `${formatNumber(100 * h.spread, 1)} %`
        : formatQuantity(h.spread, 'temperatureRise', pack);
  switch (h.state) {
    case 'waits':
      return within ? `within ${within}` : 'to hold';
    case 'not recorded':
      return 'not written down in every record';
    case 'kept':
      return spread ? `kept: ${spread} apart, ${within} allowed` : 'kept';
    case 'broken':
      return spread ? `not kept: ${spread} apart, ${within} allowed` : `not kept: ${h.words.join(', ')}`;
  }
}

/** The runs to make in their order, ticked as they come in, and what was to be held against what was. */
/** What the model says of the chosen throttle at this moment. */
function predictedNow(doc: JobDoc, shelf: readonly StoredUnit[]): WrittenPlanDoc['predicted'] {
  const unit = shelf.find((u) => u.id === doc.pick.chosen);
  const model = unit && jobModel(doc, [{ unit, opening: doc.pick.opening }]);
  return unit && model && !isFailure(model) ? predictionOf(model, unit.id) : null;
}

export function Checklist({ reply, name }: { reply: CompareReply | null; name: string }) {
  const { pack } = usePrefs();
  const { runs } = useRuns();
  const chosen = useJob((s) => s.doc.pick.chosen);
  const shelf = useShelf();
  const plan = useJob((s) => s.doc.test.plan);
  const change = useJob((s) => s.change);
  const { message } = App.useApp();
  const planned = planRuns(plan);
  const stays = staysOf(planned);
  const counted = sortedByTime(runs.filter((r) => r.doc.kind === 'dyno' && r.doc.leftOut === null && r.doc.side !== null));
  const done = counted.map((r) => (r.doc.side!.kind === 'stock' ? 'A' : 'B'));
  // A run ticks the next step of its side: out of order it still counts, and the order says so beside.
  let left = { A: done.filter((d) => d === 'A').length, B: done.filter((d) => d === 'B').length };
  const steps = planned.map(({ side }, i) => {
    const has = left[side] > 0;
    if (has) left = { ...left, [side]: left[side] - 1 };
    return { side, has, opens: i === 0 || stays[i] !== stays[i - 1] };
  });
  const next = steps.findIndex((s) => !s.has);
  return (
    <div>
      <Heading
        more={
          <span className="quiet">
            {chosen === null && done.length === 0 ? 'no unit chosen yet' : `${steps.filter((s) => s.has).length} of ${steps.length} done`}
          </span>
        }
      >
        {msg.atTheDyno}
      </Heading>
      <ol className={planStyles['sequence']} aria-label={msg.runsInTheirOrder}>
        {steps.map((s, i) => (
          <li key={i} data-side={s.side} data-done={s.has} data-next={i === next} data-opens={s.opens}>
            {s.has ? '✓ ' : ''}
            {s.side === 'A' ? 'stock' : name}
            {i === next && <span className="visually-hidden"> {msg.isNext}</span>}
          </li>
        ))}
      </ol>
      {isAsWritten(plan) ? (
        <p className={styles['note']}>
          {msg.writtenDown} {new Date(plan.written!.at).toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' })}
          {msg.beforeTheFirstRunLooksBefore}
        </p>
      ) : (
        <p className={styles['note']}>
          {plan.written
            ? 'The plan was changed after it was written down: every look now counts as one more. '
            : 'A plan that is written down before the first run needs less to be believed: without one every look counts as one more. '}
          <Button
            size="small"
            disabled={done.length > 0}
            onClick={() => {
              const wrong = change((doc) => ({
                ...doc,
                test: {
                  ...doc.test,
                  plan: {
                    ...doc.test.plan,
                    written: { ...writtenNow(doc.test.plan, new Date().toISOString()), predicted: predictedNow(doc, shelf) },
                  },
                },
              }));
              if (wrong) void message.error(issueLine(wrong, pack));
            }}
          >
            {done.length > 0 ? 'Runs have been made' : 'Write the plan down'}
          </Button>
        </p>
      )}
      <ul className={planStyles['holds']}>
        {(reply?.held ?? []).map((h) => (
          <li key={h.key} data-state={h.state}>
            <span>{HOLD_WORDS[h.key]}</span>
            <span>{stateWords(h, pack)}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}
