'use client';

import { App, Button } from 'antd';
import { parseAsFloat, parseAsStringLiteral, useQueryStates } from 'nuqs';
import { useMemo } from 'react';
import { isFailure } from '@/core/failure';
import { outside, type NumberField, type Say, type Sum, type SumField, type SumValues } from '@/core/sums/sum';
import { shownUnit } from '@/core/units/measures';
import { formatQuantity } from '@/core/units/quantity';
import { Heading, StopPage } from '@/ui/answer/stop-page';
import { failureText } from '@/ui/answer/words';
import { ChoiceField } from '@/ui/field/choice-field';
import { FieldRow } from '@/ui/field/field-row';
import { usePrefs } from '@/ui/theme/prefs';
import { WorkingSteps } from '@/ui/working/provider';
import { addressFigure } from './address';
import styles from './sums.module.css';
import { msg } from './messages';

/** What the address may hold of a sum: every figure (SI) and every choice by its key. */
function parsersOf(sum: Sum) {
  return Object.fromEntries(
    sum.fields.map((f) => [
      f.key,
      f.kind === 'number' ? { ...parseAsFloat, serialize: addressFigure } : parseAsStringLiteral(f.options.map((o) => o.value)),
    ]),
  );
}

function useSumValues(sum: Sum): {
  values: SumValues;
  set: (key: string, value: number | string) => void;
  reset: () => void;
  touched: boolean;
} {
  const parsers = useMemo(() => parsersOf(sum), [sum]);
  const [found, setFound] = useQueryStates(parsers, { history: 'replace', throttleMs: 250 });
  const n: Record<string, number> = {};
  const pick: Record<string, string> = {};
  for (const f of sum.fields) {
    const value = found[f.key] as number | string | null;
    if (f.kind === 'number') n[f.key] = (value as number | null) ?? f.start;
    else pick[f.key] = (value as string | null) ?? f.start;
  }
  return {
    values: { n, pick },
    set: (key, value) => void setFound({ [key]: value } as never),
    reset: () => void setFound(null),
    touched: Object.values(found).some((x) => x !== null),
  };
}

const rangeText = (f: NumberField, say: Say): string => `between ${say(f.least, f.measure)} and ${say(f.most, f.measure)}`;

function Field({
  field,
  values,
  wrong,
  say,
  set,
}: {
  field: SumField;
  values: SumValues;
  wrong: boolean;
  say: Say;
  set: (value: number | string) => void;
}) {
  if (field.kind === 'number')
    return (
      <FieldRow
        label={field.label}
        measure={field.measure}
        value={values.n[field.key]!}
        onChange={set}
        wrong={wrong ? rangeText(field, say) : undefined}
      />
    );
  return <ChoiceField label={field.label} value={values.pick[field.key]!} options={field.options.map((o) => ({ ...o }))} onChange={set} />;
}

/** What a volume of air is one of where no day is known. */
const OF_BENCH_AIR = 'An air flow in volume is of bench air: 20 °C (68 °F), 101.3 kPa (29.92 inHg).';

const tellsAir = (sum: Sum): boolean => sum.group === 'air' || sum.fields.some((f) => f.kind === 'number' && f.measure === 'massFlow');

/** One sum: what it asks for beside it, the answer on top, the figures and how they came about under it. */
export function SumPage({ sum }: { sum: Sum }) {
  const { pack } = usePrefs();
  const { message } = App.useApp();
  const { values, set, reset, touched } = useSumValues(sum);
  const say: Say = (si, measure) => formatQuantity(si, measure, pack);
  const wrong = outside(sum, values);
  const result = wrong.length > 0 ? null : sum.solve(values);
  const failed = result && isFailure(result) ? result : null;
  const solved = result && !isFailure(result) ? result : null;
  const copy = async (): Promise<void> => {
    try {
      await navigator.clipboard.writeText(window.location.href);
      message.success('Address copied: it holds every figure.');
    } catch {
      message.info('Copy it from the address bar: it holds every figure.');
    }
  };
  return (
    <StopPage
      wideAside
      tone={failed || wrong.length > 0 ? 'danger' : undefined}
      answer={solved ? solved.answer(say) : failed ? failureText(failed, pack) : 'One figure beside this cannot be; it says what could.'}
      reason={shownUnit('massFlow', pack).unit.airVolume === undefined || !tellsAir(sum) ? sum.about : `${sum.about} ${OF_BENCH_AIR}`}
      aside={
        <>
          {sum.fields
            .filter((f) => f.when?.(values) !== false)
            .map((f) => (
              <Field key={f.key} field={f} values={values} wrong={wrong.includes(f.key)} say={say} set={(v) => set(f.key, v)} />
            ))}
          <div className={styles['tools']}>
            <Button size="small" onClick={() => void copy()}>
              {msg.copyTheAddress}
            </Button>
            <Button size="small" type="text" disabled={!touched} onClick={reset}>
              {msg.startAgain}
            </Button>
          </div>
        </>
      }
    >
      {solved && (
        <>
          {solved.warning && (
            <p className={styles['warning']} role="alert">
              {solved.warning(say)}
            </p>
          )}
          <table className={`plain ${styles['rows']}`}>
            <tbody>
              {solved.rows.map((r, i) => (
                <tr key={r.label} data-first={i === 0}>
                  <td>
                    {r.label}
                    {r.note && <span className="quiet"> · {r.note}</span>}
                  </td>
                  <td className="num">{say(r.value, r.measure)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <Heading>{msg.howItIsWorkedOut}</Heading>
          <div className={styles['working']}>
            <WorkingSteps working={{ title: sum.title, steps: solved.steps, notes: solved.notes }} />
          </div>
        </>
      )}
    </StopPage>
  );
}
