import 'server-only';
import { join } from 'node:path';
import Piscina from 'piscina';
import type { PdfTask } from './make-pdf.worker';

const holder = globalThis as { vannerPdfs?: Piscina };
/** One thread, let go when idle: a PDF takes a quarter of a second, and nobody asks for many. */
const pool = (): Piscina =>
  (holder.vannerPdfs ??= new Piscina({
    filename: join(process.cwd(), 'dist/workers/make-pdf.mjs'),
    maxThreads: 1,
    minThreads: 0,
    idleTimeout: 30_000,
  }));

/** Draws a PDF off the thread that answers pages. */
export const makePdf = (task: PdfTask): Promise<Uint8Array<ArrayBuffer>> => pool().run(task) as Promise<Uint8Array<ArrayBuffer>>;
