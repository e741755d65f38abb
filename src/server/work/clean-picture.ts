import { join } from 'node:path';
import Piscina from 'piscina';
import { ServerProblem } from '../errors';
import type { PictureFault, PictureTask } from './clean-picture.worker';

const holder = globalThis as { vannerPictures?: Piscina };
const pool = (): Piscina =>
  (holder.vannerPictures ??= new Piscina({
    filename: join(process.cwd(), 'dist/workers/clean-picture.mjs'),
    maxThreads: 1,
    minThreads: 0,
    idleTimeout: 30_000,
  }));

const FAULTS: Readonly<Record<PictureFault, () => ServerProblem>> = {
  too_many_pixels: () =>
    new ServerProblem(413, 'too_large', 'This picture has more than 64 million pixels. Save it smaller, or take it at a lower setting.'),
  damaged: () =>
    new ServerProblem(
      415,
      'not_a_picture',
      'This picture is damaged or broke off on its way. Open it once more where it comes from, and save it again.',
    ),
};

/** A picture made anew of its pixels alone, upright, without what its camera wrote into it. `too_large`, `not_a_picture`. */
export async function cleanPicture(task: PictureTask): Promise<Uint8Array<ArrayBuffer>> {
  const made = (await pool().run(task)) as Uint8Array<ArrayBuffer> | PictureFault;
  if (typeof made === 'string') throw FAULTS[made]();
  return made;
}
