import { changeSentence, dropSentence } from '@/cases/people/keptScopes';
import { idOf, serve } from '../../../answer';

export const PUT = serve('PUT /scopes/{id}', ({ ctx, viewer, body, path: { id } }) =>
  changeSentence(ctx, viewer, idOf('Sentence', id), body),
);
export const DELETE = serve('DELETE /scopes/{id}', ({ ctx, viewer, path: { id } }) =>
  dropSentence(ctx, viewer, idOf('Sentence', id)),
);
