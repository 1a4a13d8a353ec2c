import { removeNote, restoreNote } from '@/cases/evidence/notes';
import { answer, idOf } from '../../../answer';

export const DELETE = answer(({ ctx, viewer }, { id }) => removeNote(ctx, viewer, idOf('Note', id)));
/** Undo of taking away. */
export const PUT = answer(({ ctx, viewer }, { id }) => restoreNote(ctx, viewer, idOf('Note', id)));
