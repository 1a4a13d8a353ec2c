import { listNotes, writeNote } from '@/cases/evidence/notes';
import { serve } from '../../answer';

export const GET = serve('GET /notes', ({ ctx, viewer, query }) => listNotes(ctx, viewer, query));
export const POST = serve('POST /notes', ({ ctx, viewer, body }) => writeNote(ctx, viewer, body));
