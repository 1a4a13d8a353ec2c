import { effectOfDraft, effectOfProposed } from '@/cases/proposals/effect';
import { serve } from '../../../answer';

export const GET = serve('GET /proposed-entries/effect', ({ ctx, viewer, query }) =>
  effectOfProposed(ctx, viewer, query),
);
export const POST = serve('POST /proposed-entries/effect', ({ ctx, viewer, body }) => effectOfDraft(ctx, viewer, body));
