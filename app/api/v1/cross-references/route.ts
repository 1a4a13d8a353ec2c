import { crossRefer, listReferences } from '@/cases/evidence/crossReferences';
import { serve } from '../../answer';

export const GET = serve('GET /cross-references', ({ ctx, viewer, query }) => listReferences(ctx, viewer, query));
export const POST = serve('POST /cross-references', ({ ctx, viewer, body }) => crossRefer(ctx, viewer, body));
