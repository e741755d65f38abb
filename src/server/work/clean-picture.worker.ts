/** A server thread that makes a picture anew, of its pixels alone. Bundled by scripts/build-workers.mjs. */
import { PICTURE_LIMIT_PIXELS } from '@/core/documents/picture-limit';
import sharp from 'sharp';

/** As good as the eye tells; a phone's own setting. */
const QUALITY = 90;

export interface PictureTask {
  readonly bytes: Uint8Array;
  /** It was made anew once: it is again only where something other than pixels is in it. */
  readonly kept: boolean;
}
export type PictureFault = 'too_many_pixels' | 'damaged';

/** Turned upright as its camera said, in the form it came in, and with nothing beside its pixels: no place, camera or preview. */
export default async function cleanPicture({ bytes, kept }: PictureTask): Promise<Uint8Array | PictureFault> {
  try {
    const picture = sharp(bytes, { limitInputPixels: PICTURE_LIMIT_PIXELS, failOn: 'truncated' });
    const { format, exif, xmp, iptc, comments } = await picture.metadata();
    if (kept && exif === undefined && xmp === undefined && iptc === undefined && comments === undefined) return bytes;
    const upright = picture.autoOrient();
    const made =
      format === 'png' ? upright.png() : format === 'webp' ? upright.webp({ quality: QUALITY }) : upright.jpeg({ quality: QUALITY });
    return new Uint8Array(await made.toBuffer());
  } catch (error) {
    return /pixel limit/i.test((error as Error).message) ? 'too_many_pixels' : 'damaged';
  }
}
