import { readWhatMoved } from '@/cases/sheets/readWhatMoved';
import { serve } from '../../answer';

export const GET = serve('GET /what-moved', ({ ctx, viewer, query }) => readWhatMoved(ctx, viewer, query));
