'use client';

import { Input } from 'antd';
import { parseAsString, useQueryState } from 'nuqs';
import { ownUnits, UNITS, fromSI, toSI, unitByWord, type Dimension, type Unit } from '@/core/units/units';
import { readNumber } from '@/core/units/quantity';
import { Heading, StopPage } from '@/ui/answer/stop-page';
import { ControlRow } from '@/ui/field/field-row';
import styles from './sums.module.css';
import { msg } from './messages';

const NAMES: Readonly<Partial<Record<Dimension, string>>> = {
  length: 'lengths',
  area: 'areas',
  volume: 'volumes',
  pressure: 'pressures',
  temperature: 'temperatures',
  massFlow: 'air or fuel by weight',
  volumeFlow: 'air or fuel by volume',
  power: 'powers',
  torque: 'torques',
  speed: 'speeds',
  mass: 'weights',
  angle: 'angles',
  fuelRate: 'BSFC',
  density: 'densities',
  time: 'times',
  voltage: 'voltages',
};

const figures = new Intl.NumberFormat('en-GB', { maximumSignificantDigits: 7 });
const START = '28 inH2O';

type Read = { readonly value: number; readonly unit: Unit } | { readonly wrong: string };

function readAny(text: string): Read {
  const found = readNumber(text);
  if (!found) return { wrong: `"${text}" has no number in front. Type a figure with its unit, for example ${START}.` };
  const unit = unitByWord(found.rest);
  if (unit && NAMES[unit.dimension]) return { value: found.value, unit };
  return {
    wrong:
      found.rest.trim() === ''
        ? `Type the unit behind the figure, for example ${START}.`
        : `"${found.rest.trim()}" is no unit known here. Known: ${UNITS.filter((u) => NAMES[u.dimension] && u.label)
            .map((u) => u.label)
            .join(', ')}.`,
  };
}

const factorText = (u: Unit): string =>
  u.offset === 0
    ? `1 ${u.label} = ${figures.format(u.factor)} in SI`
    : `× ${figures.format(u.factor)}, then + ${figures.format(u.offset)} for kelvin`;

/** Units: one figure typed with its unit, shown in every other unit of its kind. */
export function UnitsPage() {
  const [text, setText] = useQueryState('q', parseAsString.withDefault(START).withOptions({ history: 'replace', throttleMs: 250 }));
  const read = readAny(text);
  const good = 'unit' in read ? read : null;
  const si = good ? toSI(good.value, good.unit) : NaN;
  const same = good ? ownUnits(good.unit.dimension) : [];
  const others = same.filter((u) => u !== good?.unit);
  return (
    <StopPage
      wideAside
      tone={good ? undefined : 'danger'}
      answer={
        good
          ? `${figures.format(good.value)} ${good.unit.label} is ${others
              .slice(0, 2)
              .map((u) => `${figures.format(fromSI(si, u))} ${u.label}`)
              .join(', or ')}.`
          : 'That cannot be read yet.'
      }
      reason={msg.typeAFigureWithItsUnit}
      aside={
        <ControlRow label={msg.figure} wrong={'wrong' in read ? read.wrong : undefined}>
          <Input aria-label={msg.figureWithItsUnit} value={text} onChange={(e) => void setText(e.target.value)} />
        </ControlRow>
      }
    >
      {good && (
        <>
          <Heading>{NAMES[good.unit.dimension]}</Heading>
          <table className={`plain ${styles['rows']}`}>
            <tbody>
              {same.map((u) => (
                <tr key={u.id} data-first={u === good.unit}>
                  <td className="num">{figures.format(fromSI(si, u))}</td>
                  <td>{u.label}</td>
                  <td className="quiet">{factorText(u)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className={styles['about']}>{msg.inchesOfMercuryAt0C}</p>
        </>
      )}
    </StopPage>
  );
}
