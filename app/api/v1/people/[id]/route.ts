import { changePerson, removePerson } from '@/cases/people/people';
import { serve } from '../../../answer';

export const PUT = serve('PUT /people/{id}', ({ ctx, viewer, body, path: { id } }) =>
  changePerson(ctx, viewer, id, body),
);
export const DELETE = serve('DELETE /people/{id}', ({ ctx, viewer, path: { id } }) => removePerson(ctx, viewer, id));
