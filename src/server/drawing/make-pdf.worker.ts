/** A server thread that draws PDFs. Bundled by scripts/build-workers.mjs. */
import type { SHEETS } from '@/core/documents/kinds';
import type { Template } from '@/core/documents/template-marks';
import type { CustomerSheet } from '@/core/verdict/customer-sheet';
import { customerPdf } from './customer-pdf';
import { templatePdf } from './template-pdf';

type Paper = (typeof SHEETS)[number];

export type PdfTask =
  | { readonly of: 'customer'; readonly sheet: CustomerSheet; readonly paper: Paper; readonly madeOn: string }
  | { readonly of: 'template'; readonly template: Template; readonly paper: Paper; readonly measured_m: number };

/** A document as the bytes of a PDF. */
export default function makePdf(task: PdfTask): Promise<Uint8Array<ArrayBuffer>> {
  return task.of === 'customer'
    ? customerPdf(task.sheet, task.paper, task.madeOn)
    : templatePdf(task.template, task.paper, task.measured_m);
}
