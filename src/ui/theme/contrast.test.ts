import { PALETTES, THEMES } from './tokens';

const channel = (v: number): number => (v <= 0.03928 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);
const luminance = (hex: string): number => {
  const [r, g, b] = [1, 3, 5].map((i) => channel(Number.parseInt(hex.slice(i, i + 2), 16) / 255)) as [number, number, number];
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
};
/** Contrast of two colours as WCAG 2 has it. */
const contrast = (a: string, b: string): number => {
  const [low, high] = [luminance(a), luminance(b)].sort((x, y) => x - y) as [number, number];
  return (high + 0.05) / (low + 0.05);
};

it.each(THEMES)('%s: text stands out 4.5 to one, borders of fields and lines of charts 3 to one', (theme) => {
  const { paper, sheet, ink, quiet, danger, edge, stock, series, seriesText } = PALETTES[theme];
  for (const ground of [paper, sheet]) {
    for (const text of [ink, quiet, danger, stock, ...seriesText]) expect(contrast(text, ground)).toBeGreaterThanOrEqual(4.5);
    for (const line of [edge, stock, ...series]) expect(contrast(line, ground)).toBeGreaterThanOrEqual(3);
  }
});
