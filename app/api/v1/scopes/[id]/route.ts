import { changeSentence, dropSentence } from '@/cases/people/keptScopes';
import { keptScopeChangeSchema } from '@/contracts/bodies';
import { answer, body, idOf } from '../../../answer';

export const PUT = answer(async ({ ctx, viewer, request }, { id }) =>
  changeSentence(ctx, viewer, idOf('Sentence', id), await body(keptScopeChangeSchema, request)),
);
export const DELETE = answer(({ ctx, viewer }, { id }) => dropSentence(ctx, viewer, idOf('Sentence', id)));
