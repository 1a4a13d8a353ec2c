import { readJournal } from '@/cases/journals/readJournal';
import { serve } from '../../answer';

export const GET = serve('GET /journals', ({ ctx, viewer, query }) => readJournal(ctx, viewer, query));
