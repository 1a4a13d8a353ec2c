import { readLines } from '@/cases/sheets/readLines';
import { serve } from '../../answer';

export const GET = serve('GET /lines', ({ ctx, viewer, query }) => readLines(ctx, viewer, query));
