'use client';

import { Input } from 'antd';
import { useState } from 'react';
import { Heading, StopPage } from '@/ui/answer/stop-page';
import { TermDrawing } from './drawings';
import { anchorOf, GLOSSARY } from './glossary';
import styles from './thinking.module.css';
import { msg } from './messages';

/** Ways people size a throttle, what each goes by, and where it leads astray. */
const SCHOOLS: readonly { readonly name: string; readonly says: string; readonly but: string }[] = [
  {
    name: 'By displacement and rpm',
    says: 'Swept volume times speed times how full the cylinders get is the air; the bore is the one that loses no more than the allowed loss at it.',
    but: 'It is as good as its VE. A guess 10 % off is a bore 5 % off.',
  },
  {
    name: 'By power',
    says: 'Power times BSFC times the air–fuel ratio is the air.',
    but: 'It knows nothing of how the engine breathes, and a claimed power is a claimed throttle.',
  },
  {
    name: 'By the car’s own MAF',
    says: 'What really went in, read off a log.',
    but: 'Right only if the meter is, and only up to where stock let the engine go.',
  },
  {
    name: 'By catalogue flow',
    says: 'A bore rated on a bench at 28 inH₂O passes so many CFM: take the one whose figure is the demand.',
    but: 'At that flow it loses all 28 inH₂O, some 7 % of the air’s pressure. It always ends far too small.',
  },
  {
    name: 'By gas speed',
    says: 'Air should pass the bore at no more than so many metres a second.',
    but: 'A habit that worked on somebody’s engine: blind to shape, entry and how dense the air is.',
  },
  {
    name: 'By pressure lost',
    says: 'The throttle’s own loss, in the air it really sees, at the loss that this job accepts.',
    but: 'It still treats the throttle alone. A smaller pipe ahead of it decides sooner.',
  },
  {
    name: 'By power lost',
    says: 'The whole inlet and the engine are solved together, with the throttle and with none: the difference is what it costs.',
    but: 'This is what the others stand in for, and what Pick ranks by. It is as good as what it is told of the car, so it shows what was assumed and how far that could move it.',
  },
];

const STATISTICS: readonly { readonly title: string; readonly text: string }[] = [
  {
    title: msg.whyOneRunEachTellsNothing,
    text: msg.theSameCarPulledTwiceDiffers,
  },
  {
    title: msg.whyManyRunsOfEachAre,
    text: msg.takingThePartOffPuttingThe,
  },
  {
    title: msg.whatTheFourWordsMean,
    text: msg.gainAndLossAreSaidWhen,
  },
  {
    title: msg.whatTheIntervalIs,
    text: msg.in95Of100SuchTests,
  },
  {
    title: msg.whyLookingEarlyCostsSomething,
    text: msg.whoStopsAsSoonAsThe,
  },
];

/** How Vanner thinks: ways to size, what its statistics mean, and every word it uses. */
export function ThinkingRoom() {
  const [find, setFind] = useState('');
  const wanted = find.trim().toLowerCase();
  const shown = GLOSSARY.filter((e) => wanted === '' || `${e.term} ${e.meaning} ${e.where}`.toLowerCase().includes(wanted));
  return (
    <StopPage
      answer={msg.howVannerThinksWhatItGoes}
      reason={msg.nothingHereIsASecretOf}
      aside={
        <>
          <Heading>{msg.onThisPage}</Heading>
          <p>
            <a href="#sizing">{msg.waysToSizeAThrottle}</a>
          </p>
          <p>
            <a href="#statistics">{msg.whatTheStatisticsMean}</a>
          </p>
          <p>
            <a href="#words">{msg.everyWordWithItsUnit}</a>
          </p>
        </>
      }
    >
      <div className={styles['room']}>
        <section id="sizing">
          <Heading>{msg.waysToSizeAThrottleAnd}</Heading>
          {SCHOOLS.map((s) => (
            <div key={s.name}>
              <h3>{s.name}</h3>
              <p>
                {s.says} <span className="quiet">{s.but}</span>
              </p>
            </div>
          ))}
        </section>
        <section id="statistics">
          <Heading>{msg.whatTheStatisticsMeanInPlain}</Heading>
          {STATISTICS.map((s) => (
            <div key={s.title}>
              <h3>{s.title}</h3>
              <p>{s.text}</p>
            </div>
          ))}
        </section>
        <section id="words">
          <Heading
            more={
              <span className="quiet">
                {shown.length} {msg.words}
              </span>
            }
          >
            {msg.words2}
          </Heading>
          <Input
            aria-label={msg.findAWord}
            placeholder={msg.findAWord2}
            value={find}
            allowClear
            onChange={(e) => setFind(e.target.value)}
          />
          {shown.length === 0 && <p>{msg.noWordLikeThatTheSearch}</p>}
          <dl className={styles['words']}>
            {shown.map((e) => (
              <div key={e.term} id={anchorOf(e.term)}>
                <dt>{e.term}</dt>
                <dd>
                  {e.meaning}
                  <span className="quiet">
                    {e.units && ` · ${e.units}`} · {e.where === 'all' ? 'everywhere' : e.where}
                  </span>
                  {e.drawing && <TermDrawing name={e.drawing} />}
                </dd>
              </div>
            ))}
          </dl>
        </section>
      </div>
    </StopPage>
  );
}
