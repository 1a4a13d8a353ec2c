import type { z } from 'zod';
import type { letterheadSchema } from '@/contracts/bodies/all';
import { wrong } from '@/contracts/problem';
import type { Letterhead } from '@/exchange/leaves/leaving';
import { keepSetting, readSetting } from '@/store/settings';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { require, type Viewer } from '../asking/viewer';

const NAME = 'letterhead';
type Kept = z.infer<typeof letterheadSchema>;

/** The heading of the organisation that what leaves bears, where somebody said what it is. */
export const readLetterhead = async (ctx: Context): Promise<Kept> =>
  (await readSetting<Kept>(ctx.read, NAME)) ?? { name: '', logo: null };

export async function setLetterhead(ctx: Context, viewer: Viewer, letterhead: Kept): Promise<Kept> {
  require(viewer, 'owner', 'say what paper is headed by');
  if (letterhead.logo !== null && pictureOf(letterhead.logo) === null)
    throw wrong('logo', 'the logo is no picture in PNG or JPEG');
  await onRecord(ctx, viewer, async (trx, record) => {
    await keepSetting(trx, NAME, letterhead, viewer.name);
    await record('said what paper is headed by', NAME, { name: letterhead.name, logo: letterhead.logo !== null });
  });
  return letterhead;
}

/** The same as it is printed; null where nobody said anything. */
export async function letterheadOf(ctx: Context): Promise<Letterhead | null> {
  const { name, logo } = await readLetterhead(ctx);
  return name === '' && logo === null ? null : { name, logo: logo === null ? null : pictureOf(logo) };
}

/** The first bytes of a PNG (ISO/IEC 15948) and of a JPEG (ISO/IEC 10918-1). */
const PNG = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
const JPEG = Buffer.from([0xff, 0xd8, 0xff]);

/** The bytes of a picture that is written as a data address; null where it is none. */
function pictureOf(text: string): Buffer | null {
  const [, base64] = /^data:image\/(?:png|jpeg);base64,([A-Za-z0-9+/=]+)$/.exec(text) ?? [];
  const bytes = base64 === undefined ? null : Buffer.from(base64, 'base64');
  return bytes && (bytes.subarray(0, PNG.length).equals(PNG) || bytes.subarray(0, JPEG.length).equals(JPEG))
    ? bytes
    : null;
}
