import { removeNote, restoreNote } from '@/cases/notes';
import { answer } from '../../../answer';

export const DELETE = answer(({ ctx, viewer }, { id }) => removeNote(ctx, viewer, Number(id) || 0));
/** Undo of taking away. */
export const PUT = answer(({ ctx, viewer }, { id }) => restoreNote(ctx, viewer, Number(id) || 0));
