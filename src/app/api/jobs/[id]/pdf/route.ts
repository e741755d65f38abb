import { z } from 'zod';
import { SHEETS } from '@/core/documents/kinds';
import { UNIT_PACKS } from '@/core/units/measures';
import { pdfResponse } from '@/features/customer/response';
import { query, route } from '@/server/http';

const wanted = z.object({ pack: z.enum(UNIT_PACKS).optional(), paper: z.enum(SHEETS).optional() });

/** The customer's page of a job as a PDF, in the shop's own paper unless another is asked for. */
export const GET = route<{ id: string }>(async (req, { id }) => {
  const { pack, paper } = query(req, wanted);
  return pdfResponse(id, pack, paper);
});
