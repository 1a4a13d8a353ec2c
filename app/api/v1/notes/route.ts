import { listNotes, writeNote } from '@/cases/evidence/notes';
import { newNoteSchema } from '@/contracts/bodies';
import { evidenceShape } from '@/contracts/questions';
import { answer, body, query } from '../../answer';

export const GET = answer((asking) => listNotes(asking.ctx, asking.viewer, query(evidenceShape, asking).entity));
export const POST = answer(
  async ({ ctx, viewer, request }) => writeNote(ctx, viewer, await body(newNoteSchema, request)),
  201,
);
