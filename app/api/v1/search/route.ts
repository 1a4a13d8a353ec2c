import { search } from '@/cases/search/search';
import { serve } from '../../answer';

export const GET = serve('GET /search', ({ ctx, viewer, query }) => search(ctx, viewer, query));
