import { history } from '@/cases/evidence/history';
import { serve } from '../../answer';

export const GET = serve('GET /history', ({ ctx, viewer, query }) => history(ctx, viewer, query.subject));
