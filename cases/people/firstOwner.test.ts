import { afterAll, beforeAll, expect, test } from 'vitest';
import { type Fresh, freshInstallation } from '@/ops/fresh';
import { makeFirstOwner, offerFirstOwner } from './firstOwner';

let fresh: Fresh;
beforeAll(async () => {
  fresh = await freshInstallation();
});
afterAll(() => fresh?.close());

const wanted = (code: string, password = 'gulls over the pier') => ({
  ...{ code, name: 'Ada Quay', email: 'ada@quay.example', password },
});

test('the first owner is made by the code that is printed, once, and by no other', async () => {
  const { ctx, superuser } = fresh;
  // Somebody is here: nothing is offered, and nothing that one could try is taken.
  expect(await offerFirstOwner(ctx)).toBeNull();
  await expect(makeFirstOwner(ctx, wanted(''))).rejects.toMatchObject({ status: 403 });
  await superuser.raw('truncate person cascade');
  const former = (await offerFirstOwner(ctx)) as string;
  const code = (await offerFirstOwner(ctx)) as string;
  // The code of an earlier start holds no longer, and is not kept anywhere as it is.
  await expect(makeFirstOwner(ctx, wanted(former))).rejects.toMatchObject({ status: 403 });
  const kept = JSON.stringify(await superuser('setting').select());
  expect(kept.includes(code) || kept.includes(former)).toBe(false);
  await expect(makeFirstOwner(ctx, wanted(code, 'short'))).rejects.toThrow(/12 characters/);
  await makeFirstOwner(ctx, wanted(code));
  await expect(makeFirstOwner(ctx, { ...wanted(code), email: 'eve@quay.example' })).rejects.toMatchObject({
    status: 403,
  });
  const [owner] = await superuser('person').select('email', 'role');
  expect(owner).toEqual({ email: 'ada@quay.example', role: 'owner' });
});
