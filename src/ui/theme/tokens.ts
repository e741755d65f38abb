import type { ThemeConfig } from 'antd';
import { theme as antTheme } from 'antd';

export const THEMES = ['light', 'dark'] as const;
export type ThemeName = (typeof THEMES)[number];

/** Colours the drawings and charts need as values; the style sheet holds the same ones by the same names. */
export interface Palette {
  readonly paper: string;
  readonly sheet: string;
  readonly ink: string;
  readonly quiet: string;
  readonly hairline: string;
  /** Of fields: three to one against what they stand on. */
  readonly edge: string;
  readonly stock: string;
  /** Units, in the order they are shown. */
  readonly series: readonly string[];
  readonly danger: string;
  /** The same colours for words in them: 4.5 to one. */
  readonly seriesText: readonly string[];
}

export const PALETTES: Readonly<Record<ThemeName, Palette>> = {
  light: {
    paper: '#f5f2ec',
    sheet: '#fffdf9',
    ink: '#1d2930',
    quiet: '#5e6a70',
    hairline: '#dad3c6',
    edge: '#8a8478',
    stock: '#5b6b75',
    series: ['#0e7c6b', '#b5791a', '#7b3b6b', '#2f6690'],
    danger: '#b3261e',
    seriesText: ['#0b6b5c', '#8f5f10', '#7b3b6b', '#2f6690'],
  },
  dark: {
    paper: '#14191c',
    sheet: '#1c2327',
    ink: '#e9e4da',
    quiet: '#9aa5a8',
    hairline: '#333c40',
    edge: '#6d797e',
    stock: '#93a3ad',
    series: ['#3fb8a3', '#dba347', '#c987b7', '#6fa6d0'],
    danger: '#f0776c',
    seriesText: ['#3fb8a3', '#dba347', '#c987b7', '#6fa6d0'],
  },
};

type Derive = typeof antTheme.defaultAlgorithm;

/** The derived tokens hang on their seed alone: a server would make the same few hundred colours for every page. */
function remembered(derive: Derive): Derive {
  const known = new Map<string, ReturnType<Derive>>();
  return (seed) => {
    const key = JSON.stringify(seed);
    const found = known.get(key) ?? derive(seed);
    known.set(key, found);
    return found;
  };
}

const ALGORITHMS: Readonly<Record<ThemeName, Derive>> = {
  light: remembered(antTheme.defaultAlgorithm),
  dark: remembered(antTheme.darkAlgorithm),
};

/** Ant Design by tokens until it looks like a drawing office: hairlines, 2 px corners, no shadows. */
function antTokens(name: ThemeName): ThemeConfig {
  const p = PALETTES[name];
  return {
    // The rules come as one stylesheet with the app (see the root layout): only the variables are made while rendering.
    zeroRuntime: true,
    hashed: false,
    // A name of its own, where one of the place in the page would make the same variables anew for every page.
    cssVar: { key: `vanner-${name}` },
    algorithm: ALGORITHMS[name],
    token: {
      fontFamily: 'var(--font-text)',
      fontSize: 14,
      borderRadius: 2,
      borderRadiusLG: 2,
      borderRadiusSM: 2,
      colorPrimary: p.ink,
      colorInfo: p.series[3]!,
      colorError: p.danger,
      colorText: p.ink,
      colorTextSecondary: p.quiet,
      colorTextPlaceholder: p.quiet,
      colorBgBase: p.paper,
      colorBgContainer: p.sheet,
      colorBgElevated: p.sheet,
      colorBorder: p.edge,
      colorBorderSecondary: p.hairline,
      colorBorderDisabled: p.hairline,
      colorLink: p.ink,
      boxShadow: 'none',
      boxShadowSecondary: `0 0 0 1px ${p.hairline}, 0 8px 24px rgba(0,0,0,0.12)`,
      controlHeight: 32,
      motionDurationMid: '0.12s',
      motionDurationSlow: '0.16s',
    },
    components: {
      Button: {
        primaryShadow: 'none',
        defaultShadow: 'none',
        dangerShadow: 'none',
        primaryColor: p.sheet,
        fontWeight: 500,
        colorError: p.danger,
      },
      Segmented: { itemSelectedBg: p.ink, itemSelectedColor: p.sheet, trackBg: p.sheet, itemColor: p.quiet, trackPadding: 0 },
      Checkbox: { colorWhite: p.sheet },
      Select: { optionSelectedBg: name === 'dark' ? '#2a3337' : '#ece7dc' },
      Table: {
        headerBg: p.paper,
        headerColor: p.quiet,
        headerSortActiveBg: p.paper,
        headerSortHoverBg: p.sheet,
        bodySortBg: 'transparent',
        rowHoverBg: p.sheet,
        rowSelectedBg: name === 'dark' ? '#2a3337' : '#ece7dc',
        rowSelectedHoverBg: name === 'dark' ? '#2a3337' : '#ece7dc',
        borderColor: p.hairline,
        headerSplitColor: 'transparent',
      },
      Modal: { contentBg: p.sheet, headerBg: p.sheet },
    },
  };
}

export const ANT_TOKENS: Readonly<Record<ThemeName, ThemeConfig>> = { light: antTokens('light'), dark: antTokens('dark') };
