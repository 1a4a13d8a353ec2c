import { readOverTime } from '@/cases/sheets/readOverTime';
import { serve } from '../../answer';

export const GET = serve('GET /over-time', ({ ctx, viewer, query }) => readOverTime(ctx, viewer, query));
