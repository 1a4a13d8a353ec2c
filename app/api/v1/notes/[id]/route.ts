import { removeNote, restoreNote } from '@/cases/evidence/notes';
import { idOf, serve } from '../../../answer';

export const DELETE = serve('DELETE /notes/{id}', ({ ctx, viewer, path: { id } }) =>
  removeNote(ctx, viewer, idOf('Note', id)),
);
/** Undo of taking away. */
export const PUT = serve('PUT /notes/{id}', ({ ctx, viewer, path: { id } }) =>
  restoreNote(ctx, viewer, idOf('Note', id)),
);
