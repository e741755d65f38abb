import { z } from 'zod';
import type { RunSide } from '@/core/documents/run';
import { UPLOAD_LIMIT_BYTES } from '@/core/documents/kinds';
import { ServerProblem } from '../errors';
import { tooLarge } from './store';

/** What an upload says of its file in the address. */
export const uploadQuery = z.object({
  fileName: z.string().min(1).max(255),
  side: z
    .union([z.literal('stock'), z.uuid('a side is "stock" or the id of a unit')])
    .optional()
    .describe('"stock", or a throttle’s id; left out: to be said later'),
  table: z
    .string()
    .min(1)
    .max(400)
    .optional()
    .describe('The sheet of a workbook, or the file of an archive, that is meant; needed where there are several'),
  modified: z.iso
    .datetime({ offset: true })
    .optional()
    .describe('When the file was last written: it orders runs whose files say no time themselves'),
  nth: z.coerce.number().int().min(0).optional().describe('The file’s place among those chosen with it'),
});

export interface Upload {
  readonly jobId: string;
  readonly fileName: string;
  readonly side: RunSide | null;
  readonly body: ReadableStream<Uint8Array>;
  /** The table meant in a file of several; null: it has one. */
  readonly table: string | null;
  readonly modifiedAt: string | null;
  readonly nth: number | null;
}

/** The upload that a request is: its body, and what the address says of it. */
export function uploadOf(request: Request, jobId: string, { fileName, side, table, modified, nth }: z.infer<typeof uploadQuery>): Upload {
  if (Number(request.headers.get('content-length') ?? 0) > UPLOAD_LIMIT_BYTES) throw tooLarge();
  if (!request.body) throw new ServerProblem(422, 'empty_file', 'The file is empty.');
  return {
    jobId,
    fileName,
    side: side === undefined ? null : side === 'stock' ? { kind: 'stock' } : { kind: 'unit', unitId: side },
    body: request.body as ReadableStream<Uint8Array>,
    table: table ?? null,
    modifiedAt: modified ?? null,
    nth: nth ?? null,
  };
}
