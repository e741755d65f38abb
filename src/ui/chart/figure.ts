import type { Palette } from '../theme/tokens';
import { placeLabels, type Box } from './place';

/** A line of a chart, its values already in the shown unit. */
export interface ChartLine {
  readonly id: string;
  readonly label: string;
  readonly x: readonly number[];
  readonly y: readonly (number | null)[];
  readonly color: string;
  readonly dash?: 'solid' | 'longdash' | 'dot' | undefined;
  readonly width?: number | undefined;
  /** No label at its end. */
  readonly bare?: boolean | undefined;
}

/** A tinted band between two curves or over a stretch. */
export interface ChartBand {
  readonly x: readonly number[];
  readonly low: readonly number[];
  readonly high: readonly number[];
  readonly color: string;
  readonly hatch?: boolean | undefined;
}

/** A mark on the picture with its words. */
export interface ChartMark {
  readonly x: number;
  readonly y: number;
  readonly text: string;
  readonly color: string;
  readonly side: 'left' | 'right';
  /** Lines of words to clear above it. */
  readonly lift?: number | undefined;
}

/** A point with a name that shows on hover, and beside it where there is room. */
export interface ChartPoint {
  readonly x: number;
  readonly y: number;
  readonly name: string;
  readonly color: string;
  /** Filled and named; else an open ring. */
  readonly strong: boolean;
  readonly text?: string | undefined;
}

export interface ChartSpec {
  readonly lines: readonly ChartLine[];
  readonly bands?: readonly ChartBand[] | undefined;
  readonly marks?: readonly ChartMark[] | undefined;
  readonly points?: readonly ChartPoint[] | undefined;
  /** Words that stand in the picture where they belong, such as a window's name. */
  readonly words?:
    | readonly {
        readonly x: number;
        readonly text: string;
        readonly color: string;
        readonly anchor: 'left' | 'right' | 'center';
        readonly low?: boolean;
      }[]
    | undefined;
  readonly xRange: readonly [number, number];
  readonly yRange?: readonly [number, number] | undefined;
  readonly xTitle: string;
  readonly yTitle: string;
  readonly yZeroLine?: boolean | undefined;
  /** The x numbers are given by the chart below it. */
  readonly hideX?: boolean | undefined;
  readonly marginRight?: number | undefined;
  readonly decimals?: number | undefined;
}

export const MARGIN_LEFT = 46;
export const MARGIN_RIGHT = 92;
const MARGIN_TOP = 20;
/** Lines of labels at the right edge are kept at least this far apart. */
const LABEL_GAP_PX = 15;

type Json = Readonly<Record<string, unknown>>;

/** The heights there are between two x; all of them where nothing is left out. */
const within = (x: readonly number[], y: readonly (number | null)[], [lo, hi]: readonly [number, number]): (number | null)[] =>
  y.filter((_, i) => x[i]! >= lo && x[i]! <= hi);

function yExtent(spec: ChartSpec, view: readonly [number, number] | null): [number, number] {
  if (spec.yRange && view === null) return [spec.yRange[0], spec.yRange[1]];
  const seen = view ?? ([-Infinity, Infinity] as const);
  const ys = [
    ...spec.lines.flatMap((l) => within(l.x, l.y, seen)),
    ...(spec.bands ?? []).flatMap((b) => (view && spec.yRange ? [] : [...within(b.x, b.low, seen), ...within(b.x, b.high, seen)])),
  ].filter((v): v is number => v !== null && Number.isFinite(v));
  if (ys.length === 0) return spec.yRange ? [spec.yRange[0], spec.yRange[1]] : [0, 1];
  const low = Math.min(...ys, spec.yZeroLine ? 0 : Infinity);
  const high = Math.max(...ys, spec.yZeroLine ? 0 : -Infinity);
  const pad = (high - low || Math.abs(high) || 1) * 0.08;
  return [low - pad, high + pad];
}

/** A colour for words: a line's own where it is dark enough, else the same one darker. */
const inkOf = (color: string, palette: Palette): string => palette.seriesText[palette.series.indexOf(color)] ?? color;

/** Labels at the ends of lines, pushed apart where they would overlap. */
function endLabels(spec: ChartSpec, [lo, hi]: [number, number], plotHeight: number, palette: Palette): Json[] {
  const perPx = (hi - lo) / Math.max(1, plotHeight);
  const ends = spec.lines
    .filter((l) => !l.bare)
    .flatMap((l) => {
      let i = l.y.length - 1;
      while (i >= 0 && !Number.isFinite(l.y[i] ?? NaN)) i -= 1;
      return i < 0 ? [] : [{ line: l, y: l.y[i]!, at: l.y[i]! }];
    })
    .sort((a, b) => a.y - b.y);
  for (let pass = 0; pass < 20; pass += 1) {
    for (let i = 1; i < ends.length; i += 1) {
      const short = LABEL_GAP_PX * perPx - (ends[i]!.at - ends[i - 1]!.at);
      if (short <= 0) continue;
      ends[i]!.at += short / 2;
      ends[i - 1]!.at -= short / 2;
    }
  }
  // Nobody sees a label beyond the picture's edge: the outermost stand on it, and push the others in.
  let ceiling = hi;
  for (const end of [...ends].reverse()) {
    end.at = Math.min(end.at, ceiling);
    ceiling = end.at - LABEL_GAP_PX * perPx;
  }
  let floor = lo;
  for (const end of ends) {
    end.at = Math.max(end.at, floor);
    floor = end.at + LABEL_GAP_PX * perPx;
  }
  return ends.map(({ line, at }) => ({
    xref: 'paper',
    x: 1,
    xshift: 8,
    xanchor: 'left',
    y: at,
    yanchor: 'middle',
    text: line.label,
    showarrow: false,
    font: {
      color: inkOf(line.color, palette),
      size: 13,
      family: 'Barlow Condensed, Barlow, sans-serif',
      weight: 600,
    },
  }));
}

/** A unit's line differs by its dash as well as its colour, in the order of the colours. */
const SERIES_DASH = ['solid', 'dash', 'dashdot', 'longdashdot'] as const;
const dashOf = (l: ChartLine, palette: Palette): string => l.dash ?? SERIES_DASH[Math.max(0, palette.series.indexOf(l.color))] ?? 'solid';

function traces(spec: ChartSpec, palette: Palette): Json[] {
  const bands = (spec.bands ?? []).map((b) => ({
    type: 'scatter',
    mode: 'lines',
    x: [...b.x, ...[...b.x].reverse()],
    y: [...b.high, ...[...b.low].reverse()],
    line: { width: 0, color: b.color },
    fill: 'toself',
    fillcolor: b.hatch ? 'rgba(0,0,0,0)' : b.color,
    ...(b.hatch && { fillpattern: { shape: '/', size: 7, solidity: 0.12, fgcolor: b.color, bgcolor: 'rgba(0,0,0,0)' } }),
    hoverinfo: 'skip',
  }));
  const lines = spec.lines.map((l) => ({
    type: 'scatter',
    mode: 'lines',
    name: l.label,
    x: l.x,
    y: l.y,
    line: { color: l.color, width: l.width ?? 2, dash: dashOf(l, palette), simplify: false },
    connectgaps: false,
    hovertemplate: `%{y:,.${spec.decimals ?? 1}f}<extra>${l.label}</extra>`,
  }));
  const marks = (spec.marks ?? []).map((m) => ({
    type: 'scatter',
    mode: 'markers',
    x: [m.x],
    y: [m.y],
    marker: { color: palette.paper, size: 10, line: { color: m.color, width: 2 } },
    hoverinfo: 'skip',
  }));
  const points = (spec.points ?? []).map((p) => ({
    type: 'scatter',
    mode: 'markers',
    x: [p.x],
    y: [p.y],
    marker: { color: p.strong ? p.color : palette.paper, size: p.strong ? 9 : 7, line: { color: p.color, width: 1.6 } },
    hovertemplate: `${p.name}<extra></extra>`,
  }));
  return [...bands, ...lines, ...marks, ...points];
}

/** Words at the top of the picture, or at its foot, over what they name. */
function wordLabels(spec: ChartSpec, palette: Palette): Json[] {
  return (spec.words ?? []).map((w) => ({
    x: w.x,
    xanchor: w.anchor,
    yref: 'paper',
    y: w.low ? 0 : 1,
    yanchor: w.low ? 'bottom' : 'top',
    yshift: w.low ? 4 : -2,
    text: w.text,
    showarrow: false,
    font: { color: inkOf(w.color, palette), size: 12, family: 'Barlow Condensed, Barlow, sans-serif', weight: 600 },
  }));
}

/** The x and y of a picture in pixels. */
interface Scale {
  readonly x: (v: number) => number;
  readonly y: (v: number) => number;
  readonly frame: Box;
}

/** Points along every line, near enough to one another that no label slips between. */
function drawnPoints(spec: ChartSpec, { x, y }: Scale): (readonly [number, number])[] {
  const out: (readonly [number, number])[] = [];
  for (const l of spec.lines) {
    for (let i = 1; i < l.x.length; i += 1) {
      const [p, q] = [l.y[i - 1] ?? null, l.y[i] ?? null];
      if (p === null || q === null) continue;
      const [ax, ay, bx, by] = [x(l.x[i - 1]!), y(p), x(l.x[i]!), y(q)];
      const steps = Math.min(60, Math.max(1, Math.ceil(Math.hypot(bx - ax, by - ay) / 6)));
      for (let k = 0; k < steps; k += 1) out.push([ax + ((bx - ax) * k) / steps, ay + ((by - ay) * k) / steps]);
    }
  }
  return out;
}

/** Words of marks and names of points, where they cover neither one another nor the curves. */
function placedLabels(spec: ChartSpec, scale: Scale, palette: Palette): Json[] {
  const named = [
    ...(spec.marks ?? []).map((m) => ({ at: m, text: m.text, color: m.color, side: m.side as 'left' | 'right' | 'centre' })),
    ...(spec.points ?? []).flatMap((p) => (p.strong && p.text ? [{ at: p, text: p.text, color: p.color, side: 'centre' as const }] : [])),
  ];
  const wanted = named.map(({ at, text, side }) => ({ x: scale.x(at.x), y: scale.y(at.y), text, side }));
  const dots = [...(spec.points ?? []), ...(spec.marks ?? [])].map(({ x, y }): Box => {
    const [px, py] = [scale.x(x), scale.y(y)];
    return { x0: px - 6, x1: px + 6, y0: py - 6, y1: py + 6 };
  });
  const places = placeLabels(wanted, scale.frame, drawnPoints(spec, scale), dots);
  return named.map(({ at, text, color }, i) => ({
    x: at.x,
    y: at.y,
    text,
    showarrow: false,
    xanchor: 'center',
    yanchor: 'middle',
    xshift: places[i]!.dx,
    yshift: -places[i]!.dy,
    bgcolor: `${palette.paper}d0`,
    borderpad: 0,
    font: { color: inkOf(color, palette), size: 13, family: 'Barlow Condensed, Barlow, sans-serif', weight: 600 },
  }));
}

/** Over a stretch shorter than this whole numbers are too coarse under the picture. */
const FINE_SPAN = 8;

/** A chart as Plotly's data and layout. Pure, so that what a chart shows can be tested without one. */
export function figureOf(
  spec: ChartSpec,
  size: { width: number; height: number },
  palette: Palette,
  view: readonly [number, number] | null = null,
): { data: Json[]; layout: Json } {
  const bottom = spec.hideX ? 10 : 34;
  const yRange = yExtent(spec, view);
  const xRange = view ?? spec.xRange;
  const right = spec.marginRight ?? MARGIN_RIGHT;
  const [plotWidth, plotHeight] = [Math.max(1, size.width - MARGIN_LEFT - right), Math.max(1, size.height - bottom - MARGIN_TOP)];
  const scale: Scale = {
    x: (v) => ((v - xRange[0]) / (xRange[1] - xRange[0])) * plotWidth,
    y: (v) => (1 - (v - yRange[0]) / (yRange[1] - yRange[0])) * plotHeight,
    frame: { x0: 0, x1: plotWidth, y0: 0, y1: plotHeight },
  };
  const shown = (m: { readonly x: number }): boolean => m.x >= xRange[0] && m.x <= xRange[1];
  const inView: ChartSpec = view ? { ...spec, marks: spec.marks?.filter(shown), points: spec.points?.filter(shown) } : spec;
  const axis = {
    zeroline: false,
    ticks: '',
    tickfont: { size: 12, color: palette.quiet },
    linecolor: palette.hairline,
    gridcolor: palette.hairline,
    automargin: false,
    fixedrange: true,
  };
  const title = {
    text: spec.yTitle,
    showarrow: false,
    xref: 'paper',
    yref: 'paper',
    x: 0,
    y: 1,
    xanchor: 'left',
    yanchor: 'bottom',
    yshift: 3,
    font: { size: 12, color: palette.quiet },
  };
  const xTitle = {
    text: spec.xTitle,
    showarrow: false,
    xref: 'paper',
    yref: 'paper',
    x: 1,
    y: 0,
    xanchor: 'left',
    yanchor: 'top',
    xshift: 34,
    yshift: -6,
    font: { size: 12, color: palette.quiet },
  };
  return {
    data: traces(spec, palette),
    layout: {
      width: size.width,
      height: size.height,
      margin: { l: MARGIN_LEFT, r: spec.marginRight ?? MARGIN_RIGHT, t: MARGIN_TOP, b: bottom, pad: 0 },
      paper_bgcolor: 'rgba(0,0,0,0)',
      plot_bgcolor: 'rgba(0,0,0,0)',
      font: { family: 'Barlow, sans-serif', size: 13, color: palette.ink },
      showlegend: false,
      hovermode: spec.points ? 'closest' : 'x unified',
      hoverlabel: {
        bgcolor: palette.sheet,
        bordercolor: palette.hairline,
        font: { color: palette.ink, family: 'Barlow, sans-serif', size: 13 },
      },
      dragmode: false,
      separators: '.,',
      xaxis: {
        ...axis,
        range: xRange,
        showgrid: false,
        // Inches of bore or seconds step by less than one.
        tickformat: xRange[1] - xRange[0] < FINE_SPAN ? ',.1f' : ',d',
        showticklabels: !spec.hideX,
        showline: true,
        hoverformat: ',d',
        unifiedhovertitle: { text: `%{x:,d} ${spec.xTitle}` },
        ticks: spec.hideX ? '' : 'outside',
        ticklen: 4,
        tickcolor: palette.hairline,
      },
      yaxis: {
        ...axis,
        range: yRange,
        // A thousand is written the same on both axes.
        separatethousands: true,
        exponentformat: 'none',
        zeroline: spec.yZeroLine ?? false,
        zerolinecolor: palette.quiet,
        zerolinewidth: 1,
        nticks: Math.max(3, Math.round(size.height / 48)),
      },
      annotations: [
        title,
        ...(spec.hideX ? [] : [xTitle]),
        ...placedLabels(inView, scale, palette),
        ...wordLabels(inView, palette),
        ...endLabels(spec, yRange, plotHeight, palette),
      ],
    },
  };
}
