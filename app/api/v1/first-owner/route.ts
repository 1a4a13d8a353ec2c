import { context } from '@/cases/asking/context';
import { makeFirstOwner } from '@/cases/people/firstOwner';
import { serveAnybody } from '../../answer';

/** Makes the first owner. Nobody can be signed in yet. */
export const POST = serveAnybody('POST /first-owner', async ({ body }) => {
  await makeFirstOwner(context(), body);
  return { answer: { ok: true } };
});
