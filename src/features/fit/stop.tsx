'use client';

import Link from 'next/link';
import { useMemo } from 'react';
import { isFailure } from '@/core/failure';
import { openingCheck } from '@/core/fit/openings';
import { grossBore, type OpeningChoice } from '@/core/job/path';
import { jobModel } from '@/core/job/model';
import { formatQuantity, formatSigned } from '@/core/units/quantity';
import { DocField } from '@/features/job/field';
import { useJob, useShelf } from '@/features/job/provider';
import { useSized } from '@/features/job/use-model';
import { Heading, Pair, Rule, StopPage } from '@/ui/answer/stop';
import { usePrefs } from '@/ui/theme/prefs';
import { lipWorking } from '@/core/working/sizing-working';
import { throttleWideOpen } from '@/core/flow/throttle';
import { Num } from '@/ui/working/provider';
import { Boring } from './boring';
import { OpeningsDrawing } from './openings-drawing';
import styles from './fit.module.css';

/** Best gain of the chosen unit on the opening as it is, and opened to match. */
function useGains(): { asItIs: number | null; matched: number | null } {
  const sized = useSized();
  const chosen = useJob((s) => s.doc.pick.chosen);
  const unit = useShelf().find((u) => u.id === chosen);
  return useMemo(() => {
    const of = (opening: OpeningChoice): number | null => {
      const model = unit ? jobModel(sized, [{ unit, opening }]) : null;
      const side = model && !isFailure(model) ? model.candidates[0]! : null;
      return side?.gain_pct ? Math.max(...side.gain_pct) : null;
    };
    return { asItIs: of('as it is'), matched: of('matched') };
  }, [sized, unit]);
}

/** Fit: the chosen unit's bore against the gasket's and the manifold's opening, face on, with what the lip costs. */
export function FitStop() {
  const { pack, palette } = usePrefs();
  const doc = useJob((s) => s.doc);
  const shelf = useShelf();
  const gains = useGains();
  const unit = shelf.find((u) => u.id === doc.pick.chosen);
  const { manifoldOpening_m, gasketOpening_m } = doc.car.stock;
  if (!unit) {
    return (
      <StopPage
        answer="No unit is chosen yet, so there is nothing to lay on the manifold."
        reason="Choose one on the Pick stop; its bore is then drawn here against the opening it bolts to."
        aside={<FitFields />}
      >
        <p style={{ marginTop: 16 }}>
          <Link href={`./pick`}>Go to Pick</Link>
        </p>
      </StopPage>
    );
  }
  const bore = grossBore(unit.doc.throttle);
  const check = openingCheck(unit.doc.throttle, bore, Math.min(manifoldOpening_m, gasketOpening_m), unit.doc.largestOpening_m);
  const color = palette.series[Math.max(0, doc.pick.shown.indexOf(unit.id)) % palette.series.length]!;
  if (isFailure(check)) return <StopPage tone="danger" answer="This unit's geometry cannot be." aside={<FitFields />} children={null} />;
  const wide = throttleWideOpen(unit.doc.throttle);
  const lip = () =>
    lipWorking(doc, unit.doc.name, bore, isFailure(wide) ? 0 : wide.grossArea_m2, Math.min(manifoldOpening_m, gasketOpening_m));
  const over = formatQuantity(Math.abs(check.overhang_m), 'bore', pack);
  const answer =
    check.lipSide === 'none'
      ? `${unit.doc.name} and the opening are the same size: nothing to work.`
      : check.lipSide === 'behind the bore'
        ? `${unit.doc.name} is ${over} smaller than the opening all round: air widens into it, nothing to work.`
        : check.verdict === 'does not fit'
          ? `${unit.doc.name} stands ${over} over the opening all round, more than its flange lets the manifold be opened.`
          : `${unit.doc.name} stands ${over} over the opening all round: open the manifold to match.`;
  const worth =
    gains.asItIs !== null && gains.matched !== null && check.lipSide === 'into the flow'
      ? `Left as it is the unit brings ${formatSigned(gains.asItIs, 1, '%')} at best; opened to match, ${formatSigned(gains.matched, 1, '%')}.`
      : '';
  return (
    <StopPage
      answer={answer}
      reason={worth}
      tone={check.verdict === 'does not fit' ? 'danger' : undefined}
      aside={
        <>
          <Heading>Opening against opening</Heading>
          <Pair name="verdict">
            <span className={styles['verdict']} data-word={check.verdict}>
              {check.verdict}
            </span>
          </Pair>
          <Pair name={check.lipSide === 'into the flow' ? 'lip in the flow' : 'ledge behind the bore'}>
            <Num small label="lip" working={lip}>
              {formatQuantity(check.lip_m2, 'area', pack)}
            </Num>
          </Pair>
          <Pair name="all round">
            <Num small label="overhang all round" working={lip}>
              {over}
            </Num>
          </Pair>
          {unit.doc.largestOpening_m !== null && (
            <Pair name="flange allows up to">
              <span>{formatQuantity(unit.doc.largestOpening_m, 'bore', pack)}</span>
            </Pair>
          )}
          <Rule />
          <FitFields />
          {check.lipSide === 'into the flow' && (
            <>
              <Rule />
              <Heading>Before the cutter</Heading>
              <p>
                Trace the gasket as the template, take a little at a time and blend. Measure the wall that is left before every bite. Keep
                every chip out of the engine: block the ports, and count the rags out again.
              </p>
            </>
          )}
        </>
      }
    >
      <OpeningsDrawing
        name={unit.doc.name}
        bore_m={bore}
        shaft_m={unit.doc.throttle.shaft_m}
        gasket_m={gasketOpening_m}
        opening_m={manifoldOpening_m}
        color={color}
      />
      {check.lipSide === 'into the flow' && <Boring unit={unit} />}
    </StopPage>
  );
}

function FitFields() {
  return (
    <>
      <Heading>Measured on the car</Heading>
      <DocField path="car.stock.manifoldOpening_m" label="Manifold opening" measure="bore" />
      <DocField path="car.stock.gasketOpening_m" label="Gasket opening" measure="bore" />
    </>
  );
}
