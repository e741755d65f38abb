'use client';

import { Button, Segmented } from 'antd';
import { parseAsInteger, parseAsString, parseAsStringLiteral, useQueryState } from 'nuqs';
import { useMemo, useState } from 'react';
import { isBoosted } from '@/core/engine/induction';
import { isFailure } from '@/core/failure';
import { ladderOf } from '@/core/flow/ladder';
import { beforeLadder, chokingOf, sideFlow, sideLadder, sideStart, throttleLoss, type JobModel, type ModelSide } from '@/core/job/model';
import { demandWorking, givesOutWorking, passesWorking, plenumWorking, throttleLossWorking } from '@/core/working/sizing-working';
import { coarse } from '@/core/units/measures';
import { formatAirFlow, formatNumber, formatQuantity } from '@/core/units/quantity';
import { useJob } from '@/features/job/provider';
import { jobPulsation } from '@/core/job/path';
import { useLeftOnTable, useModel, useSized } from '@/features/job/use-model';
import { Heading, Pair, Rule, StopPage, Views } from '@/ui/answer/stop-page';
import { failureText, rpmText } from '@/ui/answer/words';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import { DemandChart } from './demand-chart';
import { movePart } from './edit-parts';
import { InTheWay } from './in-the-way';
import { Limits as SizingLimits } from './limits';
import { Limits } from '@/features/job/limits';
import { Schools } from './schools';
import { PartEditor } from './part-editor';
import { lossByPart, sectionPieces } from './path-geometry';
import { PathSection } from './path-section';
import styles from './air.module.css';
import { Term } from '@/features/thinking/term';
import { AwayView, later } from '@/ui/later';
import { msg } from './messages';
import { msg as waveMsg } from './waves/messages';

const nearest = (rpms: readonly number[], rpm: number): number =>
  rpms.reduce((best, n, i) => (Math.abs(n - rpm) < Math.abs(rpms[best]! - rpm) ? i : best), 0);

function Answer({ model, left }: { model: JobModel; left: number | null }) {
  const { pack } = usePrefs();
  const bore = formatQuantity(model.stock.fitted.throttle.bore_m, 'bore', pack, coarse('bore', pack));
  const share = left === null ? '' : ` and costs ${formatNumber(left, 1)} % of peak power`;
  const choking = chokingOf(model, model.stock);
  if (choking && choking.part !== 'throttle' && model.stock.givesOut_rpm === null)
    return <>{`The ${choking.part} holds this engine from ${rpmText(choking.from_rpm)}; the stock ${bore} is enough behind it.`}</>;
  if (model.stock.givesOut_rpm !== null) return <>{`The stock ${bore} runs short from ${rpmText(model.stock.givesOut_rpm)}${share}.`}</>;
  return (
    <>{`The stock ${bore} is enough to redline${left !== null && left >= 0.5 ? `, yet costs ${formatNumber(left, 1)} % of peak power` : ''}.`}</>
  );
}

/** Which part costs most at the top, in words. */
function Reason({ model }: { model: JobModel }) {
  const { pack } = usePrefs();
  const parts = useJob((s) => s.doc.air.parts);
  const pulsation = jobPulsation(useSized());
  const ladder = sideLadder(model, model.stock, model.rpm.length - 1);
  if (isFailure(ladder)) return null;
  const before = beforeLadder(model, model.stock, model.rpm.length - 1);
  const start_Pa = sideStart(model, model.stock, model.rpm.length - 1).p0_Pa;
  const losses = lossByPart(
    { before: before === null || isFailure(before) ? null : before, path: ladder, offset: model.offset, start_Pa },
    parts.length,
  );
  const at = parts.findIndex((p) => p.type === 'throttle');
  const throttle = losses.slice(at).reduce((a, b) => a + b, 0);
  const ahead = parts
    .slice(0, at)
    .map((p, i) => ({ name: p.name ?? p.id, loss: losses[i]! }))
    .sort((a, b) => b.loss - a.loss);
  const limit = formatQuantity(model.allowedLoss_Pa, 'loss', pack);
  const few = pulsation?.atLeast
    ? ` ${pulsation.eventShare === null ? 'Few cylinders on one throttle' : 'One cylinder to a throttle'}: the air comes in gulps, and the throttle costs at least this.`
    : '';
  const first = ahead[0];
  const order = !first
    ? ''
    : throttle >= first.loss
      ? `It is the largest loss in the path; the ${first.name} is next.`
      : `The ${first.name} costs more than it does.`;
  return (
    <>{`${model.stock.givesOut_rpm !== null ? `Above that, throttle and manifold bore lose more than the ${limit} this job allows.` : `Throttle and manifold bore stay within the ${limit} this job allows.`} ${order}${few}`}</>
  );
}

function AtRpm({ model, side, index }: { model: JobModel; side: ModelSide; index: number }) {
  const { pack } = usePrefs();
  const doc = useJob((s) => s.doc);
  const ladder = sideLadder(model, side, index);
  const flow = sideFlow(model, side, index);
  const start = sideStart(model, side, index);
  return (
    <>
      <Heading>
        {msg.at2} {formatNumber(model.rpm[index]!, 0)} {msg.rpm}
      </Heading>
      <Pair name={<Term name="air demand">{msg.engineNeeds}</Term>}>
        <Num label={msg.engineNeeds} working={() => demandWorking(doc, model, index)}>
          {formatAirFlow(model.demand_kgps[index]!, pack)}
        </Num>
      </Pair>
      <Pair name={`${side.name} passes at ${formatQuantity(model.allowedLoss_Pa, 'loss', pack, 1)}`}>
        <Num label={`${side.name} passes`} working={() => passesWorking(doc, model, side, index)}>
          {side.passes_kgps === null ? 'nothing' : formatQuantity(side.passes_kgps[index]!, 'massFlow', pack)}
        </Num>
      </Pair>
      {!isFailure(ladder) && (
        <>
          <Pair name="throttle, manifold bore lose">
            <Num label={msg.throttleAndManifoldBoreLose} working={() => throttleLossWorking(doc, side, ladder, flow, start)}>
              {formatQuantity(throttleLoss(side.compiled, ladder), 'loss', pack)}
            </Num>
          </Pair>
          {isBoosted(model.reference.result) && <BoostNumbers model={model} side={side} index={index} />}
          <Pair name={doc.car.induction.kind === 'drawThrough' ? 'blower inlet sees' : 'plenum sees'}>
            <Num label={msg.plenumSees} working={() => plenumWorking(doc, model, side, ladder, index)}>
              {formatQuantity(ladder.end_Pa, 'plenum', pack)}
            </Num>
          </Pair>
        </>
      )}
    </>
  );
}

/** What a compressor makes of it, and what the same loss would be on its other side. */
function BoostNumbers({ model, side, index }: { model: JobModel; side: ModelSide; index: number }) {
  const { pack } = usePrefs();
  const { solved } = side;
  if (isFailure(solved) || !isBoosted(solved)) return null;
  const flow = solved.massFlow_kgps[index]!;
  const { ambient } = model.problem.input;
  const swapped =
    model.before === null
      ? ladderOf(side.compiled, flow, solved.compressorOut_Pa[index]!, solved.manifold_K[index]!)
      : ladderOf(side.compiled, flow, ambient.p_Pa, ambient.T_K);
  return (
    <>
      <Pair name={model.before === null ? 'equivalent behind a compressor' : 'equivalent before a blower'}>
        <span>{isFailure(swapped) ? 'choke' : formatQuantity(throttleLoss(side.compiled, swapped), 'loss', pack)}</span>
      </Pair>
      <Pair name="boost">
        <span>{formatQuantity(solved.boost_Pa[index]!, 'plenum', pack)}</span>
      </Pair>
      <Pair name="pressure ratio">
        <span>{formatNumber(solved.pressureRatio[index]!, 2)}</span>
      </Pair>
      <Pair name="charge">
        <span>{formatQuantity(solved.manifold_K[index]!, 'temperature', pack)}</span>
      </Pair>
    </>
  );
}

function Shown({ model }: { model: JobModel }) {
  const doc = useJob((s) => s.doc);
  const { palette } = usePrefs();
  const rows: { side: ModelSide; color: string; dashed: boolean }[] = [
    { side: model.stock, color: palette.stock, dashed: true },
    ...model.candidates.map((side, i) => ({ side, color: palette.series[i % palette.series.length]!, dashed: false })),
  ];
  return (
    <>
      <Heading more={<Term name="runs short from">{msg.runsShortFromRpm}</Term>}>{msg.shown}</Heading>
      <table className="plain">
        <tbody>
          {rows.map(({ side, color, dashed }) => (
            <tr key={side.id}>
              <td>
                <i className="swatch" data-dashed={dashed} style={{ borderColor: color }} />
                {side.name}
              </td>
              <td className="num">
                <Num small label={`${side.name} runs short from`} working={() => givesOutWorking(doc, model, side)}>
                  {side.givesOut_rpm === null ? 'never' : formatNumber(Math.round(side.givesOut_rpm / 10) * 10, 0)}
                </Num>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

/** The rpm and the side looked at, kept in the address. */
function useLook(model: JobModel | null): {
  index: number;
  setRpm: (rpm: number) => void;
  side: ModelSide | null;
  setOn: (id: string) => void;
} {
  const top = model ? Math.round((model.rpm.at(-1)! * 0.94) / 50) * 50 : 6000;
  const [rpm, setRpm] = useQueryState('rpm', parseAsInteger.withDefault(top).withOptions({ throttleMs: 300 }));
  const [on, setOn] = useQueryState('on', parseAsString.withDefault('stock'));
  const side = model ? (model.candidates.find((c) => c.id === on) ?? model.stock) : null;
  return { index: model ? nearest(model.rpm, rpm) : 0, setRpm: (n) => void setRpm(n), side, setOn: (id) => void setOn(id) };
}

interface LookProps {
  readonly model: JobModel;
  readonly side: ModelSide;
  readonly index: number;
}

function Pictures({
  model,
  side,
  index,
  onRpm,
  onSide,
  selected,
  onSelect,
}: LookProps & { onRpm: (rpm: number) => void; onSide: (id: string) => void; selected: string | null; onSelect: (id: string) => void }) {
  const doc = useJob((s) => s.doc);
  const { pack } = usePrefs();
  const label =
    side.id === 'stock' ? `stock ${formatQuantity(side.fitted.throttle.bore_m, 'bore', pack, coarse('bore', pack))}` : side.name;
  const pieces = useMemo(() => sectionPieces(doc, side.fitted, label), [doc, side, label]);
  const ladder = sideLadder(model, side, index);
  const before = beforeLadder(model, side, index);
  const set = useJob((s) => s.set);
  const change = useJob((s) => s.change);
  const boreOf = (id: string): ((bore_m: number) => void) | null => {
    const at = doc.air.parts.findIndex((p) => p.id === id);
    const part = doc.air.parts[at];
    if (!part) return null;
    if (part.type === 'throttle')
      return side.id === 'stock' && doc.car.stock.throttle.shape !== 'oval' ? (d) => set('car.stock.throttle.bore_m', d) : null;
    if (part.type === 'opening') return side.id === 'stock' ? (d) => set('car.stock.manifoldOpening_m', d) : null;
    return 'bore_m' in part ? (d) => set(`air.parts.${at}.bore_m`, d) : null;
  };
  const options = [{ label: msg.stock, value: 'stock' }, ...model.candidates.map((c) => ({ label: c.name, value: c.id }))];
  return (
    <>
      <Limits model={model} />
      <DemandChart model={model} rpm={Math.round(model.rpm[index]!)} onRpm={onRpm} height={290} />
      <div className={styles['head']}>
        <h2 className="label">
          {msg.pathAt} {formatNumber(model.rpm[index]!, 0)} {msg.rpmWith}
        </h2>
        <Segmented size="small" aria-label={msg.pathDrawnWith} options={options} value={side.id} onChange={onSide} />
      </div>
      <PathSection
        pieces={pieces}
        ladder={
          isFailure(ladder) || isFailure(before)
            ? null
            : { before, path: ladder, offset: model.offset, start_Pa: sideStart(model, side, index).p0_Pa }
        }
        ambient_Pa={doc.car.weather.p_Pa}
        shaft_m={side.fitted.throttle.shaft_m}
        selected={selected}
        onSelect={onSelect}
        onMove={(id, to) => void change((d) => movePart(d, id, to))}
        onBore={boreOf}
      >
        {isFailure(ladder) && <p role="alert">{failureText({ ...ladder, side: 'candidate', where: side.name }, pack)}</p>}
      </PathSection>
      <div className={styles['tables']}>
        <Schools model={model} />
        <InTheWay model={model} side={side} />
      </div>
    </>
  );
}

/** With nothing to draw, the parts are still there to be put right. */
function PartChooser({ onSelect }: { onSelect: (id: string) => void }) {
  const parts = useJob((s) => s.doc.air.parts);
  return (
    <div className={styles['tools']} style={{ marginTop: 16 }}>
      {parts.map((p) => (
        <Button key={p.id} onClick={() => onSelect(p.id)}>
          {p.name ?? p.id}
        </Button>
      ))}
    </div>
  );
}

/**
 * Air: what the engine needs against what each throttle passes, and where along the intake the pressure goes. The editor
 * keeps its place whether or not the intake can be solved: a figure on its way through an impossible one is still being typed.
 */
const VIEWS = ['steady', 'waves'] as const;
const WavesStop = later(() => import('./waves/waves-stop').then((m) => m.WavesStop), AwayView);

export function AirStop() {
  const { pack } = usePrefs();
  const found = useModel();
  const model = isFailure(found) ? null : found;
  const left = useLeftOnTable(found);
  const { index, setRpm, side, setOn } = useLook(model);
  const [selected, setSelected] = useState<string | null>(null);
  const [view, setView] = useQueryState('look', parseAsStringLiteral(VIEWS).withDefault('steady').withOptions({ history: 'push' }));
  const steady = (
    <StopPage
      tone={model ? undefined : 'danger'}
      answer={model ? <Answer model={model} left={left} /> : 'This intake cannot be solved as it stands.'}
      reason={model ? <Reason model={model} /> : isFailure(found) ? failureText(found, pack) : null}
      aside={
        <>
          {model && side && (
            <>
              <AtRpm model={model} side={side} index={index} />
              <Rule />
              <Shown model={model} />
              <Rule />
            </>
          )}
          <PartEditor selected={selected} onSelect={setSelected} />
          <Rule />
          <SizingLimits />
        </>
      }
    >
      {model && side ? (
        <Pictures model={model} side={side} index={index} onRpm={setRpm} onSide={setOn} selected={selected} onSelect={setSelected} />
      ) : (
        <PartChooser onSelect={setSelected} />
      )}
    </StopPage>
  );
  const choice = model && (
    <Segmented
      aria-label={waveMsg.howTheAirIsTaken}
      value={view}
      options={VIEWS.map((value) => ({ value, label: waveMsg[value] }))}
      onChange={(v) => void setView(v)}
    />
  );
  return (
    <Views choice={choice}>{view === 'waves' && model ? <WavesStop model={model} rpm={model.rpm[index]!} onRpm={setRpm} /> : steady}</Views>
  );
}
