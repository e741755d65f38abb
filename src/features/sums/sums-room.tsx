'use client';

import { parseAsStringLiteral, useQueryState } from 'nuqs';
import { Link } from '@/ui/link';
import type { Sum } from '@/core/sums/sum';
import { SUMS } from '@/core/sums/all';
import { SumPage } from './sum-page';
import { UnitsPage } from './units-page';
import styles from './sums.module.css';
import { msg } from './messages';

const GROUPS: readonly { readonly key: Sum['group']; readonly name: string }[] = [
  { key: 'air', name: 'Air' },
  { key: 'throttle', name: 'Throttle' },
  { key: 'bench', name: 'Flow bench' },
  { key: 'boost', name: 'Boost' },
  { key: 'fuel', name: 'Fuel' },
  { key: 'fit', name: 'Fitting' },
];

const UNITS_KEY = 'units';
const KEYS = [...SUMS.map((s) => s.key), UNITS_KEY];

function Entry({ to, title, on }: { to: string; title: string; on: boolean }) {
  return (
    <Link href={`/sums?sum=${to}`} aria-current={on ? 'page' : undefined} className={styles['entry']} scroll={false}>
      {title}
    </Link>
  );
}

/** Sums: one small computation at a time, its working under it, its address holding every figure. */
export function SumsRoom() {
  const [key] = useQueryState('sum', parseAsStringLiteral(KEYS).withDefault(SUMS[0]!.key));
  const sum = SUMS.find((s) => s.key === key);
  return (
    <div className={styles['room']}>
      <nav className={styles['nav']} aria-label={msg.sums}>
        {GROUPS.map((g) => (
          <section key={g.key}>
            <h2 className="label">{g.name}</h2>
            {SUMS.filter((s) => s.group === g.key).map((s) => (
              <Entry key={s.key} to={s.key} title={s.title} on={s.key === key} />
            ))}
          </section>
        ))}
        <section>
          <h2 className="label">{msg.units}</h2>
          <Entry to={UNITS_KEY} title={msg.anyUnitIntoAnyOther} on={key === UNITS_KEY} />
        </section>
      </nav>
      {sum ? <SumPage key={sum.key} sum={sum} /> : <UnitsPage />}
    </div>
  );
}
