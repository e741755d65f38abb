'use client';

import { Input } from 'antd';
import { useState } from 'react';
import { Heading, StopPage } from '@/ui/answer/stop';
import { TermDrawing } from './drawings';
import { anchorOf, GLOSSARY } from './glossary';
import styles from './thinking.module.css';

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
    title: 'Why one run each tells nothing',
    text: 'The same car pulled twice differs by about half a percent. So a single run of each part can show a gain of one percent that is nothing but that scatter. Several runs make the mean surer.',
  },
  {
    title: 'Why many runs of each are still not enough',
    text: 'Taking the part off, putting the other on and strapping the car down again moves the figure too, by about a third of a percent, and so does the day. Running ten times without touching the car does not make that smaller. Only putting stock back on does: that is why orders such as stock, new, stock, new tell far more than the same runs with one swap.',
  },
  {
    title: 'What the four words mean',
    text: '“Gain” and “loss” are said when the 95 % interval lies wholly on that side of nothing. “No difference that matters” is said when the effect is 95 % sure to be below the smallest change that matters, which is set before the first run. All else is “can’t tell yet”, and then the page says what would tell, with its cost and its chance.',
  },
  {
    title: 'What the interval is',
    text: 'In 95 of 100 such tests it holds the true effect. It is as wide as runs, refits, the day, drift and weather make it, each as large as this shop’s own tests have shown, or as assumed until there are some. The page names the widest part, because that is the one worth work.',
  },
  {
    title: 'Why looking early costs something',
    text: 'Who stops as soon as the figures look good stops on luck more often. Looks before the planned end therefore ask for more, and runs added after it do too.',
  },
];

/** How Vanner thinks: ways to size, what its statistics mean, and every word it uses. */
export function ThinkingRoom() {
  const [find, setFind] = useState('');
  const wanted = find.trim().toLowerCase();
  const shown = GLOSSARY.filter((e) => wanted === '' || `${e.term} ${e.meaning} ${e.where}`.toLowerCase().includes(wanted));
  return (
    <StopPage
      answer="How Vanner thinks: what it goes by, and what its words mean."
      reason="Nothing here is a secret of the program. Every figure in it opens its own working; this page says why it is worked out so."
      aside={
        <>
          <Heading>On this page</Heading>
          <p>
            <a href="#sizing">Ways to size a throttle</a>
          </p>
          <p>
            <a href="#statistics">What the statistics mean</a>
          </p>
          <p>
            <a href="#words">Every word, with its unit</a>
          </p>
        </>
      }
    >
      <div className={styles['room']}>
        <section id="sizing">
          <Heading>Ways to size a throttle, and why they differ</Heading>
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
          <Heading>What the statistics mean, in plain words</Heading>
          {STATISTICS.map((s) => (
            <div key={s.title}>
              <h3>{s.title}</h3>
              <p>{s.text}</p>
            </div>
          ))}
        </section>
        <section id="words">
          <Heading more={<span className="quiet">{shown.length} words</span>}>Words</Heading>
          <Input aria-label="Find a word" placeholder="find a word" value={find} allowClear onChange={(e) => setFind(e.target.value)} />
          {shown.length === 0 && <p>No word like that. The search above finds cars, parts and pages.</p>}
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
