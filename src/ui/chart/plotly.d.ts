/** The part of Plotly that our one wrapper calls. */
declare module 'plotly.js-cartesian-dist-min' {
  export type Json = Readonly<Record<string, unknown>>;
  export function react(root: HTMLElement, data: readonly Json[], layout: Json, config: Json): Promise<void>;
  export function purge(root: HTMLElement): void;
  export function downloadImage(
    root: HTMLElement,
    options: { format: 'png' | 'svg'; width: number; height: number; filename: string; scale?: number },
  ): Promise<string>;
  export const Plots: { resize(root: HTMLElement): void };
}
