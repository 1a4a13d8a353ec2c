import { readSeries } from '@/cases/journals/readJournal';
import { serve } from '../../../answer';

export const GET = serve('GET /journals/series', ({ ctx, viewer, query }) => readSeries(ctx, viewer, query));
