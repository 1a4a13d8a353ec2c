import { misstatements } from '@/cases/proposals/misstatements';
import { serve } from '../../answer';

export const GET = serve('GET /misstatements', ({ ctx, viewer, query }) => misstatements(ctx, viewer, query));
