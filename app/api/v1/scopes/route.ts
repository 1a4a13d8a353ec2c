import { keepSentence, showKeptScopes } from '@/cases/people/keptScopes';
import { newKeptScopeSchema } from '@/contracts/bodies';
import { answer, body } from '../../answer';

export const GET = answer(({ ctx, viewer }) => showKeptScopes(ctx, viewer));
export const POST = answer(
  async ({ ctx, viewer, request }) => keepSentence(ctx, viewer, await body(newKeptScopeSchema, request)),
  201,
);
