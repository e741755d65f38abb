import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import PDFDocument from 'pdfkit';
import type { Template } from '@/core/documents/template-marks';
import { CHECK_BAR_m, templateBounds } from '@/core/fit/template';
import type { SHEETS } from '@/core/documents/kinds';
import { LAYER_COLORS } from './maker';

/** PDF points in a metre. */
export const POINTS_PER_m = 72 / 0.0254;
const SHEET_pt: Readonly<Record<(typeof SHEETS)[number], readonly [number, number]>> = { A4: [595.28, 841.89], Letter: [612, 792] };
/** Printers leave the edge white; sheets overlap by as much again, m. */
const EDGE_m = 0.012;
const OVERLAP_m = 0.01;
const HEAD_m = 0.016;

const font = (name: string): Buffer => readFileSync(join(process.cwd(), 'node_modules', '@fontsource', 'barlow', 'files', name));

export interface Tiling {
  readonly columns: number;
  readonly rows: number;
  /** Part of the drawing a sheet shows, m on paper. */
  readonly width_m: number;
  readonly height_m: number;
}

/** How a drawing of a size on paper is cut over sheets: they overlap, so that they can be taped on their marks. */
export function tilingOf(size: { width_m: number; height_m: number }, sheet: (typeof SHEETS)[number]): Tiling {
  const [w, h] = SHEET_pt[sheet];
  const width_m = w / POINTS_PER_m - 2 * EDGE_m;
  const height_m = h / POINTS_PER_m - 2 * EDGE_m - HEAD_m;
  const count = (size_m: number, room_m: number): number =>
    size_m <= room_m + 1e-9 ? 1 : Math.ceil((size_m - OVERLAP_m) / (room_m - OVERLAP_m) - 1e-9);
  return { columns: count(size.width_m, width_m), rows: count(size.height_m, height_m), width_m, height_m };
}

/** An arc as Bézier curves of at most an eighth of a turn: four a circle would stray by 0.03 % of the radius, too much for a template. */
function curve(doc: PDFKit.PDFDocument, x: number, y: number, r: number, from: number, to: number): void {
  const pieces = Math.max(1, Math.ceil((to - from) / (Math.PI / 4) - 1e-9));
  const by = (to - from) / pieces;
  const reach = (4 / 3) * Math.tan(by / 4) * r;
  doc.moveTo(x + r * Math.cos(from), y + r * Math.sin(from));
  for (let i = 0; i < pieces; i += 1) {
    const a = from + i * by;
    const b = a + by;
    doc.bezierCurveTo(
      x + r * Math.cos(a) - reach * Math.sin(a),
      y + r * Math.sin(a) + reach * Math.cos(a),
      x + r * Math.cos(b) + reach * Math.sin(b),
      y + r * Math.sin(b) - reach * Math.cos(b),
      x + r * Math.cos(b),
      y + r * Math.sin(b),
    );
  }
  doc.stroke();
}

/**
 * A template as PDF at true size, over as many sheets as it takes, and a last one with holes and notes. `measured_m` is what
 * the 50 mm bar of the last print came out as; everything is drawn that much larger or smaller, and the sheet says so.
 */
export async function templatePdf(t: Template, sheet: (typeof SHEETS)[number], measured_m: number): Promise<Uint8Array<ArrayBuffer>> {
  const scale = CHECK_BAR_m / measured_m;
  const k = POINTS_PER_m * scale;
  const b = templateBounds(t.marks);
  // Texts stand out beside their anchors.
  const pad = 0.006;
  const size = { width_m: (b.right - b.left + 2 * pad) * scale, height_m: (b.high - b.low + 2 * pad) * scale };
  const tiles = tilingOf(size, sheet);
  const doc = new PDFDocument({ size: [...SHEET_pt[sheet]], margin: 0, autoFirstPage: false, info: { Title: t.title }, compress: false });
  const pieces: Buffer[] = [];
  const whole = new Promise<Uint8Array<ArrayBuffer>>((done, fail) => {
    doc.on('data', (piece: Buffer) => pieces.push(piece));
    doc.on('end', () => done(new Uint8Array(Buffer.concat(pieces))));
    doc.on('error', fail);
  });
  doc.registerFont('text', font('barlow-latin-400-normal.woff'));
  doc.registerFont('strong', font('barlow-latin-600-normal.woff'));
  const edge = EDGE_m * POINTS_PER_m;
  const total = tiles.columns * tiles.rows;
  for (let row = 0; row < tiles.rows; row += 1)
    for (let column = 0; column < tiles.columns; column += 1) {
      doc.addPage();
      const n = row * tiles.columns + column + 1;
      const correction =
        scale === 1 ? 'true size: print at 100 %' : `corrected for a printer whose 50 mm bar measured ${(measured_m * 1000).toFixed(2)} mm`;
      doc.font('strong').fontSize(11).fillColor('#1D2930').text(t.title, edge, edge, { lineBreak: false });
      doc
        .font('text')
        .fontSize(8)
        .text(`${correction}${total > 1 ? ` · sheet ${n} of ${total}, lay the corner marks on one another` : ''}`, edge, edge + 15, {
          lineBreak: false,
        });
      // Drawing coordinates to the page: y up becomes y down, from the top of this tile.
      const x0 = b.left - pad + (column * (tiles.width_m - OVERLAP_m)) / scale;
      const y0 = b.high + pad - (row * (tiles.height_m - OVERLAP_m)) / scale;
      const top = edge + HEAD_m * POINTS_PER_m;
      const X = (x: number): number => edge + (x - x0) * k;
      const Y = (y: number): number => top + (y0 - y) * k;
      const [w, h] = [tiles.width_m * POINTS_PER_m, tiles.height_m * POINTS_PER_m];
      doc.save();
      doc.rect(edge, top, w, h).clip();
      doc.lineWidth(0.5);
      for (const m of t.marks) {
        doc.strokeColor(LAYER_COLORS[m.layer]);
        if (m.kind === 'line') doc.moveTo(X(m.a.x_m), Y(m.a.y_m)).lineTo(X(m.b.x_m), Y(m.b.y_m)).stroke();
        else if (m.kind === 'circle') curve(doc, X(m.at.x_m), Y(m.at.y_m), m.r_m * k, 0, 2 * Math.PI);
        else if (m.kind === 'arc') curve(doc, X(m.at.x_m), Y(m.at.y_m), m.r_m * k, -m.to_rad, -m.from_rad);
        else {
          doc
            .font('text')
            .fontSize(m.height_m * k)
            .fillColor(LAYER_COLORS[m.layer]);
          doc.text(m.text, X(m.at.x_m) - doc.widthOfString(m.text) / 2, Y(m.at.y_m) - m.height_m * k * 0.7, { lineBreak: false });
        }
      }
      if (total > 1)
        for (const x of [edge, edge + w])
          for (const y of [top, top + h])
            doc
              .moveTo(x - 6, y)
              .lineTo(x + 6, y)
              .moveTo(x, y - 6)
              .lineTo(x, y + 6)
              .stroke('#5E6A70');
      doc.restore();
    }
  schedule(doc, t, edge);
  doc.end();
  return whole;
}

/** The last page: every hole with its place from the opening's middle, and the notes. */
function schedule(doc: PDFKit.PDFDocument, t: Template, edge: number): void {
  doc.addPage();
  doc.font('strong').fontSize(13).fillColor('#1D2930').text(t.title, edge, edge);
  doc.moveDown(0.6).font('strong').fontSize(10).text('Holes, from the middle of the bore: right and up, in millimetres');
  doc.font('text').fontSize(10);
  const cell = (x: number): string => (x * 1000).toFixed(2);
  for (const h of t.holes) doc.text(`${h.n}    x ${cell(h.at.x_m)}    y ${cell(h.at.y_m)}    ${cell(h.diameter_m)} wide    ${h.what}`);
  doc.moveDown(0.8).font('strong').text('Before it is cut').font('text');
  for (const note of t.notes) doc.text(note, { width: 480 }).moveDown(0.3);
  doc.text('Measure the 50 mm bar on the print first. The maker’s drawing, where there is one, beats this sheet.', { width: 480 });
}
