import { z } from 'zod';
import { figure } from './figure';
import { FASTENERS } from './within';
import type { SheetEvent } from './sheet-event';

const stamp = {
  /** Made where the event is, so that one sent twice is one. */
  id: z.uuid(),
  who: z.string().trim().min(1, 'Say who is at the car.').max(60),
  at_ms: z.number().int().min(0),
  phone_ms: z.number().int().min(0).optional(),
  kept_ms: z.number().int().min(0).optional(),
  device: z.string().max(60).optional(),
  seen: z.uuid().nullable().optional(),
};
const reason = z.string().trim().min(1, 'Say why.').max(400);
const key = z.string().min(1).max(40);

/** Something written down on a run-sheet. */
export const sheetEventDoc = z.discriminatedUnion('type', [
  z.object({ ...stamp, type: z.literal('done'), step: key, reason: reason.optional() }),
  z.object({ ...stamp, type: z.literal('undone'), step: key, reason }),
  z.object({ ...stamp, type: z.literal('passed'), gate: key }),
  z.object({ ...stamp, type: z.literal('failed'), gate: key, reason }),
  z.object({ ...stamp, type: z.literal('taken back'), of: z.uuid(), reason }),
  z.object({ ...stamp, type: z.literal('fasteners out'), bag: key, count: figure(FASTENERS) }),
  z.object({ ...stamp, type: z.literal('note'), step: key, text: z.string().trim().min(1, 'A note says something.').max(1000) }),
  z.object({ ...stamp, type: z.literal('photo'), step: key, hash: z.string().regex(/^[0-9a-f]{64}$/) }),
  z.object({ ...stamp, type: z.literal('engine on') }),
  z.object({ ...stamp, type: z.literal('engine off') }),
  z.object({
    ...stamp,
    type: z.literal('rpm'),
    step_ms: z.number().int().min(50).max(60_000),
    rpm: z.array(z.number().min(0, 'An engine does not turn backwards.').max(25_000, 'No engine here turns that fast.')).min(1).max(600),
  }),
  z.object({ ...stamp, type: z.literal('fasteners back'), bag: key, count: figure(FASTENERS) }),
]);
export type SheetEventDoc = z.infer<typeof sheetEventDoc> & SheetEvent;
