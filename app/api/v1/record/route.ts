import { readRecord } from '@/cases/upkeep/readRecord';
import { serve } from '../../answer';

/** Who did what, newest first. */
export const GET = serve('GET /record', ({ ctx, viewer, query }) => readRecord(ctx, viewer, query));
