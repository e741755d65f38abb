import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import PDFDocument from 'pdfkit';
import { barReach } from '@/core/verdict/bars';
import type { SHEETS } from '@/core/documents/kinds';
import { formatNumber, formatSigned } from '@/core/units/quantity';
import type { CustomerSheet, NamedBar, SheetCurve, SheetTable } from '@/core/verdict/customer-sheet';
import { gainPlot } from '@/core/verdict/gain-plot';

const SIZE_pt: Readonly<Record<(typeof SHEETS)[number], readonly [number, number]>> = { A4: [595.28, 841.89], Letter: [612, 792] };
const EDGE_pt = 48;
const INK = '#1D2930';
const QUIET = '#5E6A70';
const HAIR = '#DAD3C6';
const BAND = '#E4E5E4';
const STOCK = '#5B6B75';
const VERDIGRIS = '#0E7C6B';
const BRASS = '#8F5F10';

const FONTS = { text: 400, strong: 600 } as const;
type Weight = keyof typeof FONTS;

const font = (weight: number, set: 'latin' | 'latin-ext'): Buffer =>
  readFileSync(join(process.cwd(), 'node_modules', '@fontsource', 'barlow', 'files', `barlow-${set}-${weight}-normal.woff`));

/** What the font's first file holds; other Latin letters are in its second. */
const BASIC = /[\u0000-\u00ff\u0131\u0152\u0153\u02bb-\u02bc\u02c6\u02da\u02dc\u2000-\u206f\u20ac\u2122\u2191\u2193\u2212\u2215]/;
/** Signs that neither has, in words that say the same. */
const plain = (text: string): string =>
  text
    .replaceAll('⅛', '1/8')
    .replaceAll('→', 'to')
    .replaceAll('←', '')
    .replaceAll('ρ', 'rho')
    .replace(/[\u2009\u200a\u202f]/g, ' ');

type Doc = PDFKit.PDFDocument;

/** Writes a text in runs of the two files of one font, so that no letter of a name goes missing. */
function write(doc: Doc, weight: Weight, text: string, x: number, y: number, options: PDFKit.Mixins.TextOptions = {}): void {
  const words = plain(text);
  const runs = [...words].reduce<{ ext: boolean; text: string }[]>((list, c) => {
    const ext = !BASIC.test(c);
    const last = list.at(-1);
    if (last && last.ext === ext) last.text += c;
    else list.push({ ext, text: c });
    return list;
  }, []);
  runs.forEach((run, i) => {
    doc.font(`${weight}${run.ext ? '-ext' : ''}`);
    const more = { ...options, continued: i < runs.length - 1 };
    if (i === 0) doc.text(run.text, x, y, more);
    else doc.text(run.text, more);
  });
  if (runs.length === 0) doc.font(weight);
}

/** Keeps a block of a height whole on a page. */
function room(doc: Doc, height: number): void {
  if (doc.y + height > doc.page.height - EDGE_pt) doc.addPage();
}

function chart(doc: Doc, curve: SheetCurve, width: number): void {
  const height = 150;
  room(doc, height + 46);
  const top = doc.y + 14;
  const box = { left: EDGE_pt + 30, top, width: width - 100, height };
  const p = gainPlot(curve, box);
  doc.fontSize(8).fillColor(QUIET);
  write(doc, 'text', 'power against stock, %', box.left, top - 12, { lineBreak: false });
  for (const v of p.pctTicks) {
    doc
      .moveTo(box.left, p.y(v))
      .lineTo(box.left + box.width, p.y(v))
      .lineWidth(0.5)
      .stroke(v === 0 ? QUIET : HAIR);
    write(doc, 'text', formatSigned(v, Math.abs(v % 1) > 1e-9 ? 1 : 0), EDGE_pt, p.y(v) - 5, {
      width: 24,
      align: 'right',
      lineBreak: false,
    });
  }
  const outline = (points: readonly (readonly [number, number])[]): void =>
    points.forEach(([x, y], i) => void (i === 0 ? doc.moveTo(x, y) : doc.lineTo(x, y)));
  outline(p.band);
  doc.closePath().fillOpacity(0.6).fill(BAND).fillOpacity(1);
  if (p.predicted.length > 1) {
    outline(p.predicted);
    doc.lineWidth(1.4).stroke(VERDIGRIS);
  }
  outline(p.measured);
  doc.lineWidth(1.4).stroke(INK);
  doc.fontSize(8).fillColor(QUIET);
  for (const n of p.rpmTicks)
    write(doc, 'text', formatNumber(n, 0), p.x(n) - 20, top + height + 4, { width: 40, align: 'center', lineBreak: false });
  write(doc, 'text', 'rpm', box.left + box.width + 8, top + height + 4, { lineBreak: false });
  const m = p.measured.at(-1)![1];
  const q = p.predicted.at(-1)?.[1];
  const apart = q !== undefined && Math.abs(m - q) < 10 ? 5 : 0;
  write(doc.fillColor(INK), 'strong', 'measured', box.left + box.width + 5, m - 5 + (q !== undefined && m > q ? apart : -apart), {
    lineBreak: false,
  });
  if (q !== undefined)
    write(doc.fillColor(VERDIGRIS), 'strong', 'predicted', box.left + box.width + 5, q - 5 + (m > q ? -apart : apart), {
      lineBreak: false,
    });
  doc.x = EDGE_pt;
  doc.y = top + height + 22;
}

function effects(doc: Doc, bars: readonly NamedBar[], width: number): void {
  if (bars.length === 0) return;
  const row = 18;
  room(doc, row * bars.length + 44);
  const reach = barReach(bars);
  const left = EDGE_pt + 120;
  const x = (v: number): number => left + ((v + reach) / (2 * reach)) * (width - 130);
  const top = doc.y + 12;
  doc
    .rect(x(-1), top, x(1) - x(-1), row * bars.length)
    .fillOpacity(0.6)
    .fill(BAND)
    .fillOpacity(1);
  doc
    .moveTo(x(0), top)
    .lineTo(x(0), top + row * bars.length)
    .lineWidth(0.5)
    .dash(2, { space: 2 })
    .stroke(QUIET)
    .undash();
  doc.fontSize(8).fillColor(QUIET);
  write(doc, 'text', 'does not matter', x(0) - 40, top - 11, { width: 80, align: 'center', lineBreak: false });
  write(doc, 'text', 'worse', x(-reach), top - 11, { lineBreak: false });
  write(doc, 'text', 'better', x(reach) - 40, top - 11, { width: 40, align: 'right', lineBreak: false });
  bars.forEach((b, i) => {
    const y = top + row * (i + 0.5);
    const color = b.low > 0 ? VERDIGRIS : b.high < 0 ? BRASS : STOCK;
    write(doc.fillColor(INK).fontSize(9), 'text', b.name, EDGE_pt, y - 6, { lineBreak: false });
    doc.lineWidth(1.4).moveTo(x(b.low), y).lineTo(x(b.high), y).stroke(color);
    for (const end of [b.low, b.high])
      doc
        .moveTo(x(end), y - 3)
        .lineTo(x(end), y + 3)
        .stroke(color);
    doc.circle(x(b.middle), y, 3).fillAndStroke(b.low > 0 || b.high < 0 ? color : '#FFFFFF', color);
  });
  doc.fontSize(8).fillColor(QUIET);
  write(doc, 'text', 'each with its 95 % interval, in multiples of what matters', x(0) - 130, top + row * bars.length + 4, {
    width: 260,
    align: 'center',
    lineBreak: false,
  });
  doc.x = EDGE_pt;
  doc.y = top + row * bars.length + 22;
}

function table(doc: Doc, t: SheetTable, width: number): void {
  room(doc, 34 + 16 * t.rows.length);
  doc.fontSize(11).fillColor(INK);
  write(doc, 'strong', t.title, EDGE_pt, doc.y + 6);
  const n = t.head.length;
  const first = n === 4 && t.rows[0]?.[0]?.includes('third') ? 0.42 : n === 5 ? 0.16 : 1 / n;
  const at = (k: number): number => EDGE_pt + (k === 0 ? 0 : width * (first + ((k - 1) * (1 - first)) / (n - 1)));
  const wide = (k: number): number => (k === 0 ? width * first : (width * (1 - first)) / (n - 1)) - 6;
  const line = (cells: readonly string[], weight: Weight, color: string): void => {
    const y = doc.y + 4;
    cells.forEach((cell, k) =>
      write(doc.fontSize(9).fillColor(color), weight, cell, at(k), y, {
        width: wide(k),
        align: k === 0 ? 'left' : 'right',
        lineBreak: false,
      }),
    );
    doc.x = EDGE_pt;
    doc.y = y + 12;
    doc
      .moveTo(EDGE_pt, doc.y)
      .lineTo(EDGE_pt + width, doc.y)
      .lineWidth(0.4)
      .stroke(HAIR);
  };
  line(t.head, 'text', QUIET);
  for (const row of t.rows) line(row, 'text', INK);
}

/** The customer's page on paper. */
export async function customerPdf(sheet: CustomerSheet, paper: (typeof SHEETS)[number], madeOn: string): Promise<Uint8Array<ArrayBuffer>> {
  const [w] = SIZE_pt[paper];
  const width = w - 2 * EDGE_pt;
  const doc = new PDFDocument({
    size: [...SIZE_pt[paper]],
    margin: EDGE_pt,
    info: { Title: `${plain(sheet.car)}: ${plain(sheet.unit)}`, Author: plain(sheet.shop) },
    lang: 'en',
  });
  const pieces: Buffer[] = [];
  const whole = new Promise<Uint8Array<ArrayBuffer>>((done, fail) => {
    doc.on('data', (piece: Buffer) => pieces.push(piece));
    doc.on('end', () => done(new Uint8Array(Buffer.concat(pieces))));
    doc.on('error', fail);
  });
  for (const [name, weight] of Object.entries(FONTS)) {
    doc.registerFont(name, font(weight, 'latin'));
    doc.registerFont(`${name}-ext`, font(weight, 'latin-ext'));
  }
  doc.fontSize(10).fillColor(QUIET);
  write(doc, 'text', `${sheet.shop}  ·  ${madeOn}`, EDGE_pt, EDGE_pt, { width });
  doc.fontSize(13).fillColor(INK);
  write(doc, 'strong', `${sheet.car}: ${sheet.unit}`, EDGE_pt, doc.y + 2, { width });
  doc.fontSize(19);
  write(doc, 'strong', sheet.answer, EDGE_pt, doc.y + 8, { width });
  if (sheet.decided) write(doc.fontSize(10).fillColor(BRASS), 'text', sheet.decided, EDGE_pt, doc.y + 4, { width });
  doc.y += 4;
  if (sheet.curve) chart(doc, sheet.curve, width);
  effects(doc, sheet.bars, width);
  for (const t of sheet.tables) table(doc, t, width);
  room(doc, 40);
  write(doc.fontSize(11).fillColor(INK), 'strong', 'Why', EDGE_pt, doc.y + 8, { width });
  for (const r of sheet.reasons) {
    room(doc, 26);
    write(doc.fontSize(9.5).fillColor(INK), 'text', `–  ${r}`, EDGE_pt, doc.y + 2, { width });
  }
  if (sheet.note) {
    room(doc, 50);
    write(doc.fontSize(11), 'strong', 'In the shop’s words', EDGE_pt, doc.y + 8, { width });
    write(doc.fontSize(10), 'text', sheet.note, EDGE_pt, doc.y + 2, { width });
  }
  room(doc, 16 * sheet.small.length);
  doc.y += 8;
  for (const s of sheet.small) write(doc.fontSize(8).fillColor(QUIET), 'text', s, EDGE_pt, doc.y + 1, { width });
  doc.end();
  return whole;
}
