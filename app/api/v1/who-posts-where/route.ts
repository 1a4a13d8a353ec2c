import { readWhoPostsWhere } from '@/cases/pictures/whoPostsWhere';
import { serve } from '../../answer';

export const GET = serve('GET /who-posts-where', ({ ctx, viewer, query }) => readWhoPostsWhere(ctx, viewer, query));
