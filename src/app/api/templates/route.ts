import { makePdf } from '@/server/drawing/make-pdf';
import { templateRequest } from '@/core/documents/template';
import { templateDxf, templateSvg } from '@/server/drawing/maker';
import { body, route } from '@/server/http';

const TYPES = { svg: 'image/svg+xml', dxf: 'image/vnd.dxf', pdf: 'application/pdf' } as const;

/** Writes a template as a file. Nothing is kept: the drawing comes with the request. */
export const POST = route(async (req) => {
  const { template, format, sheet, measured_m } = await body(req, templateRequest);
  const file =
    format === 'pdf'
      ? await makePdf({ of: 'template', template, paper: sheet, measured_m })
      : format === 'dxf'
        ? templateDxf(template)
        : templateSvg(template);
  return new Response(file, {
    headers: {
      'content-type': TYPES[format],
      'content-disposition': `attachment; filename="${template.kind}.${format}"`,
      'content-security-policy': "default-src 'none'; sandbox",
      'x-content-type-options': 'nosniff',
    },
  });
});
