import makerjs from 'makerjs';
import type { Template, TemplateLayer, TemplateMark } from '@/core/documents/template-marks';

const MM = 1000;
const degrees = (rad: number): number => (rad * 180) / Math.PI;

/** Line colours by layer, dark enough to print. */
export const LAYER_COLORS: Readonly<Record<TemplateLayer, string>> = {
  outline: '#1D2930',
  opening: '#0E7C6B',
  holes: '#2F6690',
  scribe: '#5E6A70',
  check: '#1D2930',
};

function pathOf(m: Exclude<TemplateMark, { kind: 'text' }>): makerjs.IPath {
  switch (m.kind) {
    case 'line':
      return new makerjs.paths.Line([m.a.x_m * MM, m.a.y_m * MM], [m.b.x_m * MM, m.b.y_m * MM]);
    case 'circle':
      return new makerjs.paths.Circle([m.at.x_m * MM, m.at.y_m * MM], m.r_m * MM);
    case 'arc':
      return new makerjs.paths.Arc([m.at.x_m * MM, m.at.y_m * MM], m.r_m * MM, degrees(m.from_rad), degrees(m.to_rad));
  }
}

/** A template as a drawing in millimetres. */
function modelOf(t: Template): makerjs.IModel {
  const model: makerjs.IModel = { units: makerjs.unitType.Millimeter, paths: {}, models: {} };
  t.marks.forEach((m, i) => {
    if (m.kind !== 'text') {
      model.paths![`${m.layer}-${i}`] = { ...pathOf(m), layer: m.layer };
      return;
    }
    const half = (m.text.length * m.height_m * MM) / 4;
    const anchor = new makerjs.paths.Line([m.at.x_m * MM - half, m.at.y_m * MM], [m.at.x_m * MM + half, m.at.y_m * MM]);
    model.models![`text-${i}`] = { caption: { text: m.text, anchor }, layer: m.layer };
  });
  return model;
}

const TEXT_mm = 3;

/** The template as DXF, in millimetres. */
export const templateDxf = (t: Template): string =>
  makerjs.exporter.toDXF(modelOf(t), { units: makerjs.unitType.Millimeter, fontSize: TEXT_mm, accuracy: 1e-4 });

/** The template as SVG: its size stands in millimetres, so that it prints and opens at true size. */
export const templateSvg = (t: Template): string =>
  makerjs.exporter.toSVG(modelOf(t), {
    units: makerjs.unitType.Millimeter,
    useSvgPathOnly: false,
    strokeWidth: '0.2',
    fontSize: `${TEXT_mm}`,
    accuracy: 1e-4,
    layerOptions: Object.fromEntries(Object.entries(LAYER_COLORS).map(([layer, stroke]) => [layer, { stroke }])),
  });
