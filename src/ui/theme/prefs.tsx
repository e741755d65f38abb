'use client';

import { App, ConfigProvider } from 'antd';
import { createContext, useCallback, useContext, useMemo, useState, type ReactNode } from 'react';
import type { UnitPack } from '@/core/units/measures';
import { EURO, formatMoney } from '@/core/units/quantity';
import { ANT_TOKENS, PALETTES, type Palette, type ThemeName } from './tokens';

interface Prefs {
  readonly pack: UnitPack;
  readonly theme: ThemeName;
  readonly palette: Palette;
  /** The shop's sign for money, and an amount with it. */
  readonly currency: string;
  readonly money: (amount: number) => string;
  readonly setPack: (pack: UnitPack) => void;
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

export const PACK_COOKIE = 'vanner-units';
export const THEME_COOKIE = 'vanner-theme';

/** Keeps the choices in cookies, so that the first page of the next visit already comes in them. */
export function PrefsProvider({
  pack: pack0,
  theme: theme0,
  currency = EURO,
  children,
}: {
  pack: UnitPack;
  theme: ThemeName;
  currency?: string;
  children: ReactNode;
}) {
  const [pack, changePack] = useState(pack0);
  const [theme, changeTheme] = useState(theme0);
  const setPack = useCallback((next: UnitPack) => {
    remember(PACK_COOKIE, next);
    changePack(next);
  }, []);
  const setTheme = useCallback((next: ThemeName) => {
    remember(THEME_COOKIE, next);
    document.documentElement.dataset['theme'] = next;
    changeTheme(next);
  }, []);
  const money = useCallback((amount: number) => formatMoney(amount, currency), [currency]);
  const value = useMemo(
    () => ({ pack, theme, palette: PALETTES[theme], currency, money, setPack, setTheme }),
    [pack, theme, currency, money, setPack, setTheme],
  );
  return (
    <PrefsContext value={value}>
      <ConfigProvider theme={ANT_TOKENS[theme]} wave={{ disabled: true }}>
        <App message={{ maxCount: 3 }}>{children}</App>
      </ConfigProvider>
    </PrefsContext>
  );
}
