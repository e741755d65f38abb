'use client';

import { App, ConfigProvider } from 'antd';
import { createContext, useCallback, useContext, useEffect, useMemo, useState, type ReactNode } from 'react';
import type { PackName, UnitPack, UnitSet } from '@/core/units/measures';
import { EURO, formatMoney } from '@/core/units/quantity';
import { datesOf, USUAL_LOCALE, type Dates } from '../dates';
import { ANT_TOKENS, PALETTES, type Palette, type ThemeName } from './tokens';

interface Prefs {
  /** Units figures are shown in: the pack, with the shop's own choices and the day's air. */
  readonly pack: UnitPack;
  readonly packName: PackName;
  readonly theme: ThemeName;
  readonly palette: Palette;
  /** The shop's sign for money, and an amount with it. */
  readonly currency: string;
  readonly money: (amount: number) => string;
  /** Whose shop it is; empty: not said. */
  readonly shopName: string;
  /** Dates in the reader's language region and zone. */
  readonly dates: Dates;
  readonly setPack: (pack: PackName) => void;
  readonly setTheme: (theme: ThemeName) => void;
}

const PrefsContext = createContext<Prefs | null>(null);

/** The reader's own unit pack and theme. */
export function usePrefs(): Prefs {
  const prefs = useContext(PrefsContext);
  if (!prefs) throw new Error('usePrefs outside its provider');
  return prefs;
}

const YEAR_S = 31_536_000;
const remember = (name: string, value: string): void => {
  document.cookie = `${name}=${value}; path=/; max-age=${YEAR_S}; samesite=strict`;
};

const PACK_COOKIE = 'vanner-units';
const THEME_COOKIE = 'vanner-theme';
const ZONE_COOKIE = 'vanner-zone';

/** How long what was done is told, s: long enough to look up from the car and read a sentence of fifteen words. */
const TOLD_s = 5;
const NO_OWN: UnitSet['own'] = {};

/** The same choices with the air of a day: what lies inside tells air flows as volumes of that air. */
export function DayAir({ density_kgpm3, children }: { density_kgpm3: number | null; children: ReactNode }) {
  const prefs = usePrefs();
  const value = useMemo((): Prefs => {
    if (density_kgpm3 === null) return prefs;
    const own = typeof prefs.pack === 'string' ? NO_OWN : prefs.pack.own;
    return { ...prefs, pack: { pack: prefs.packName, own, air_kgpm3: density_kgpm3 } };
  }, [prefs, density_kgpm3]);
  return <PrefsContext value={value}>{children}</PrefsContext>;
}

/** Keeps the choices in cookies, so that the first page of the next visit already comes in them. */
export function PrefsProvider({
  pack: pack0,
  theme: theme0,
  currency = EURO,
  own = NO_OWN,
  shopName = '',
  locale = USUAL_LOCALE,
  zone: zone0,
  children,
}: {
  pack: PackName;
  theme: ThemeName;
  currency?: string;
  own?: UnitSet['own'];
  shopName?: string;
  locale?: string;
  /** The reader's zone as of the last visit; the server writes dates in it. */
  zone?: string | undefined;
  children: ReactNode;
}) {
  const [pack, changePack] = useState(pack0);
  const [theme, changeTheme] = useState(theme0);
  const setPack = useCallback((next: PackName) => {
    remember(PACK_COOKIE, next);
    changePack(next);
  }, []);
  const setTheme = useCallback((next: ThemeName) => {
    remember(THEME_COOKIE, next);
    document.documentElement.dataset['theme'] = next;
    changeTheme(next);
  }, []);
  const [zone, setZone] = useState(zone0);
  useEffect(() => {
    const own = Intl.DateTimeFormat().resolvedOptions().timeZone;
    if (own === zone) return;
    remember(ZONE_COOKIE, own);
    setZone(own);
  }, [zone]);
  const dates = useMemo(() => datesOf(locale, zone), [locale, zone]);
  const money = useCallback((amount: number) => formatMoney(amount, currency), [currency]);
  const value = useMemo(
    () => ({
      pack: Object.keys(own).length === 0 ? pack : { pack, own },
      packName: pack,
      theme,
      palette: PALETTES[theme],
      currency,
      money,
      shopName,
      dates,
      setPack,
      setTheme,
    }),
    [pack, own, theme, currency, money, shopName, dates, setPack, setTheme],
  );
  return (
    <PrefsContext value={value}>
      <ConfigProvider theme={ANT_TOKENS[theme]} wave={{ disabled: true }}>
        <App message={{ maxCount: 3, duration: TOLD_s }}>{children}</App>
      </ConfigProvider>
    </PrefsContext>
  );
}
