import { changeNote, removeNote } from '@/cases/evidence/notes';
import { idOf, serve } from '../../../answer';

export const DELETE = serve('DELETE /notes/{id}', ({ ctx, viewer, path: { id } }) =>
  removeNote(ctx, viewer, idOf('Note', id)),
);
export const PUT = serve('PUT /notes/{id}', ({ ctx, viewer, path: { id }, body }) =>
  changeNote(ctx, viewer, idOf('Note', id), body),
);
