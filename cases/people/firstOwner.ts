import { createHash, randomBytes, timingSafeEqual } from 'node:crypto';
import type { z } from 'zod';
import type { firstOwnerSchema } from '@/contracts/bodies/all';
import { forbidden } from '@/contracts/problem';
import { countPeople } from '@/store/people';
import { keepSetting, readSetting } from '@/store/settings';
import type { Context } from '../asking/context';
import { addPerson } from './people';

const NAME = 'first owner';
const CODE_BYTES = 15;

const digestOf = (code: string): string => createHash('sha256').update(code).digest('hex');

/**
 * A code by which the first owner is made on the screen, anew at every start; null where somebody is there already. Only
 * whoever sees what the start command prints has it, and only its digest is kept.
 */
export async function offerFirstOwner(ctx: Context): Promise<string | null> {
  if ((await countPeople(ctx.work)) > 0) return null;
  const code = randomBytes(CODE_BYTES).toString('base64url');
  await keepSetting(ctx.write, NAME, { digest: digestOf(code) }, '');
  return code;
}

/** @throws ProblemError where the code is not the one that was printed, or somebody is there already */
export async function makeFirstOwner(
  ctx: Context,
  { code, name, email, password }: z.infer<typeof firstOwnerSchema>,
): Promise<void> {
  const kept = await readSetting<{ digest: string }>(ctx.write, NAME);
  const given = Buffer.from(digestOf(code));
  const wanted = Buffer.from(kept?.digest ?? digestOf(randomBytes(CODE_BYTES).toString('hex')));
  // One answer for a wrong code and for none: nobody learns from it whether there is an owner.
  if (given.length !== wanted.length || !timingSafeEqual(given, wanted) || (await countPeople(ctx.write)) > 0)
    throw forbidden(
      'This is not the code of an installation that waits for its first owner; start it again and open the address that it prints',
    );
  await addPerson(ctx, null, { name, email, password, role: 'owner' });
}
