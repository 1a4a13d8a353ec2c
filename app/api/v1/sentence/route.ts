import { readSentence } from '@/cases/asking/readSentence';
import { serve } from '../../answer';

export const GET = serve('GET /sentence', ({ ctx, viewer, query }) => readSentence(ctx, viewer, query));
