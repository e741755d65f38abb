'use client';

import { App, Button, Input } from 'antd';
import { useState } from 'react';
import type { ShopSettings } from '@/core/documents/shop';
import { SHEETS } from '@/core/documents/kinds';
import { HOURLY } from '@/core/documents/within';
import { UNIT_PACKS } from '@/core/units/measures';
import { Heading, Rule, StopPage } from '@/ui/answer/stop-page';
import { ChoiceField } from '@/ui/field/choice-field';
import { ControlRow, FieldRow } from '@/ui/field/field-row';
import { send } from '@/ui/post';
import { OwnHistory } from './own-history';
import { OwnUnits } from './own-units';
import { Space } from './space';
import { useSettings } from './use-settings';
import styles from './settings.module.css';
import { msg } from './messages';

const PACK_NAMES = {
  us: 'US: mm bores, cfm, psi, inH₂O, hp',
  metric: 'Metric: mm, kPa, kW',
  mixed: 'Mixed: mm, kPa, hp, cfm',
} as const;

/** The passphrase: set, changed or taken away; with one, every page asks for it once a fortnight. */
function Passphrase({ set: set0, needed }: { set: boolean; needed: boolean }) {
  const { message } = App.useApp();
  const [isSet, setIsSet] = useState(set0);
  const [current, setCurrent] = useState('');
  const [next, setNext] = useState('');
  const [wrong, setWrong] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const change = async (to: string | null): Promise<void> => {
    setBusy(true);
    try {
      const { set } = await send<{ set: boolean }>('PUT', '/api/shop/passphrase', { current, next: to });
      setIsSet(set);
      setCurrent('');
      setNext('');
      setWrong(null);
      void message.success(set ? 'Set. Other browsers have to give it now.' : 'Removed.');
    } catch (error) {
      setWrong((error as Error).message);
    }
    setBusy(false);
  };
  return (
    <>
      <Heading more={<span className="quiet">{isSet ? 'set' : 'none'}</span>}>{msg.passphrase}</Heading>
      <p className="quiet">
        {isSet
          ? 'Whoever opens this Vanner gives it once a fortnight.'
          : 'Without one Vanner answers this machine only. It needs one as soon as it is told to listen beyond it.'}
      </p>
      {isSet && (
        <Input.Password
          aria-label={msg.currentPassphrase}
          placeholder={msg.currentPassphrase2}
          autoComplete="current-password"
          value={current}
          onChange={(e) => setCurrent(e.target.value)}
        />
      )}
      <Input.Password
        aria-label={msg.newPassphrase}
        placeholder={isSet ? 'the new one' : 'three or four words'}
        autoComplete="new-password"
        value={next}
        onChange={(e) => setNext(e.target.value)}
      />
      {wrong && (
        <p className={styles['wrong']} role="alert">
          {wrong}
        </p>
      )}
      <div className={styles['actions']}>
        <Button disabled={busy || next === '' || (isSet && current === '')} onClick={() => void change(next)}>
          {isSet ? 'Change it' : 'Set it'}
        </Button>
        {isSet && !needed && (
          <Button type="text" disabled={busy || current === ''} onClick={() => void change(null)}>
            {msg.takeItAway}
          </Button>
        )}
      </div>
    </>
  );
}

/** What the shop settles once: its name, its people, units, paper, and who may come in. */
export function SettingsRoom({ settings, passphrase, beyond }: { settings: ShopSettings; passphrase: boolean; beyond: boolean }) {
  const { doc, wrong, waits, save, tryAgain } = useSettings(settings);
  const [person, setPerson] = useState('');
  const add = (): void => {
    const name = person.trim();
    if (name !== '' && save((now) => ({ people: [...now.people, name] }))) setPerson('');
  };
  const n = doc.people.length;
  return (
    <StopPage
      answer={
        doc.name === ''
          ? 'This shop has no name yet.'
          : `${doc.name}: ${n === 0 ? 'nobody named yet' : `${n} ${n === 1 ? 'person' : 'people'}`}.`
      }
      reason={msg.namesStandUnderSignOffsAnd}
      aside={<Passphrase set={passphrase} needed={beyond} />}
    >
      <div className={styles['room']}>
        <Heading>{msg.theShop}</Heading>
        <ControlRow label={msg.name}>
          <Input
            aria-label={msg.nameOfTheShop}
            maxLength={80}
            defaultValue={doc.name}
            onBlur={(e) => e.target.value.trim() !== doc.name && save(() => ({ name: e.target.value }))}
            onPressEnter={(e) => e.currentTarget.blur()}
          />
        </ControlRow>
        <Heading>{msg.people}</Heading>
        {n > 0 && (
          <ul className={styles['people']}>
            {doc.people.map((name) => (
              <li key={name}>
                {name}
                <Button
                  size="small"
                  type="text"
                  aria-label={`Remove ${name} from the list`}
                  onClick={() => save((now) => ({ people: now.people.filter((p) => p !== name) }))}
                >
                  {msg.remove}
                </Button>
              </li>
            ))}
          </ul>
        )}
        <div className={styles['actions']}>
          <Input
            aria-label={msg.anotherPerson}
            placeholder={msg.anotherName}
            maxLength={60}
            value={person}
            onChange={(e) => setPerson(e.target.value)}
            onPressEnter={add}
          />
          <Button disabled={person.trim() === ''} onClick={add}>
            {msg.add}
          </Button>
        </div>
        {wrong && (
          <p className={styles['wrong']} role="alert">
            {wrong}{' '}
            {waits && (
              <Button size="small" onClick={tryAgain}>
                {msg.tryAgain}
              </Button>
            )}
          </p>
        )}
        <Rule />
        <Heading>{msg.whatNewScreensAndJobsStart}</Heading>
        <ChoiceField
          label={msg.unitsOfANewScreen}
          value={doc.pack}
          options={UNIT_PACKS.map((value) => ({ value, label: PACK_NAMES[value] }))}
          onChange={(pack) => save(() => ({ pack }))}
        />
        <OwnUnits doc={doc} save={save} />
        <ChoiceField
          label={msg.paper}
          value={doc.paper}
          options={SHEETS.map((value) => ({ value, label: value }))}
          onChange={(paper) => save(() => ({ paper }))}
        />
        <ControlRow label={msg.currencySymbolAmountsAreNotConverted}>
          <Input
            aria-label={msg.currencySymbol}
            maxLength={4}
            defaultValue={doc.currency}
            onBlur={(e) => e.target.value.trim() !== doc.currency && save(() => ({ currency: e.target.value }))}
            onPressEnter={(e) => e.currentTarget.blur()}
          />
        </ControlRow>
        <FieldRow
          label={msg.labourRatePerHour}
          measure="money"
          value={doc.hourly}
          within={HOURLY}
          onChange={(hourly) => save(() => ({ hourly }))}
        />
        <Rule />
        <Heading>{msg.howThisShopRepeats}</Heading>
        <OwnHistory doc={doc} save={save} />
        <p className="quiet">{msg.limitsOfSizingThatNewJobs}</p>
        <Rule />
        <Heading>{msg.whatItTakes}</Heading>
        <Space />
      </div>
    </StopPage>
  );
}
