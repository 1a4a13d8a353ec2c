import { partyStory } from '@/cases/documents/partyStory';
import { serve } from '../../../answer';

export const GET = serve('GET /parties/{code}', ({ ctx, viewer, query, path: { code } }) =>
  partyStory(ctx, viewer, code, query),
);
