import sharp from 'sharp';
import { POST as postFile } from '@/app/api/files/route';
import { GET as getFile } from '@/app/api/files/[hash]/route';
import { at, bare, json, none, onFreshDatabase, sendBytes } from '../../../test/api';
import { db } from '../db/client';
import { storeFile } from './store';

onFreshDatabase();

const HERE = {
  IFD0: { Make: 'Made-up camera', Model: 'One' },
  IFD3: { GPSLatitudeRef: 'N', GPSLatitude: '51/1 30/1 0/1', GPSLongitudeRef: 'W', GPSLongitude: '0/1 7/1 0/1' },
};

/** Red on the left, blue on the right, 60 × 40. */
const halves = () =>
  sharp({ create: { width: 60, height: 40, channels: 3, background: '#d02020' } }).composite([
    { input: { create: { width: 30, height: 40, channels: 3, background: '#2020d0' } }, left: 30, top: 0 },
  ]);
/** As a phone held upright writes it: lying on its side, with the turn told beside it, and where it was taken. */
const photo = async (): Promise<Buffer> =>
  halves()
    .jpeg()
    .withExif(HERE)
    .withMetadata({ orientation: 6, exif: HERE } as never)
    .toBuffer();

const sent = async (bytes: Uint8Array) => postFile(sendBytes(new Blob([new Uint8Array(bytes)])), none);
const got = async (hash: string): Promise<Buffer> => Buffer.from(await (await getFile(bare(), at({ hash }))).arrayBuffer());

it('a photo is kept upright, without its place and its camera', async () => {
  const taken = await photo();
  expect(await sharp(taken).metadata()).toMatchObject({ orientation: 6, width: 60, height: 40, exif: expect.any(Buffer) as Buffer });
  const { hash } = await json<{ hash: string }>(await sent(taken));
  const kept = await got(hash);
  const meta = await sharp(kept).metadata();
  expect(meta).toMatchObject({ format: 'jpeg', width: 40, height: 60 });
  expect([meta.exif, meta.orientation, kept.includes('Made-up camera')]).toEqual([undefined, undefined, false]);
  // What was on the left is at the top now.
  const { data } = await sharp(kept).extract({ left: 20, top: 5, width: 1, height: 1 }).raw().toBuffer({ resolveWithObject: true });
  expect(data[0]!).toBeGreaterThan(data[2]! + 80);
});

it('one that was kept before is shown without them too', async () => {
  const stored = await db()
    .transaction()
    .execute(async (trx) => storeFile(trx, [await photo()]));
  const shown = await got(stored.hash);
  expect((await sharp(shown).metadata()).exif).toBeUndefined();
});

it('a drawing loses no pixel', async () => {
  const drawn = await halves().png().toBuffer();
  const kept = await got((await json<{ hash: string }>(await sent(drawn))).hash);
  expect(await sharp(kept).raw().toBuffer()).toEqual(await sharp(drawn).raw().toBuffer());
});

it('few bytes that claim very many pixels, and a picture that broke off, are refused with a way out', async () => {
  const huge = await sharp({ create: { width: 12_000, height: 9000, channels: 3, background: '#fff' } })
    .png()
    .toBuffer();
  expect(huge.length).toBeLessThan(2e6);
  const answer = await sent(huge);
  expect(answer.status).toBe(413);
  expect(await json(answer)).toMatchObject({ message: expect.stringContaining('64 million pixels') as string });
  const whole = await halves().resize(600, 400).jpeg().toBuffer();
  const half = await sent(whole.subarray(0, whole.length / 2));
  expect(half.status).toBe(415);
  expect(await json(half)).toMatchObject({ error: 'not_a_picture' });
});

it('what is no picture is kept byte for byte', async () => {
  const { hash, size } = await json<{ hash: string; size: number }>(await sent(Buffer.from('rpm,hp\n2000,90\n')));
  expect([hash.length, size]).toEqual([64, 15]);
  expect((await getFile(bare(), at({ hash }))).status).toBe(415);
});
