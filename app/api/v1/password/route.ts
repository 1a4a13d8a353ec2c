import { context } from '@/cases/asking/context';
import { changePassword, takeReset } from '@/cases/people/people';
import { passwordChangeSchema, resetSchema } from '@/contracts/bodies';
import { answer, body, checkOrigin, fromOf, guarded, sessionOf } from '../../answer';

/** Changes one's own password; all other sessions end. */
export const PUT = answer(async ({ ctx, viewer, request }) =>
  changePassword(ctx, viewer, sessionOf(request), await body(passwordChangeSchema, request), fromOf(request)),
);

/** Chooses a password by a link that an owner handed over. Nobody is signed in here. */
export const POST = (request: Request): Promise<Response> =>
  guarded(async () => {
    checkOrigin(request);
    await takeReset(context(), await body(resetSchema, request));
    return Response.json({ ok: true }, { headers: { 'cache-control': 'no-store' } });
  });
