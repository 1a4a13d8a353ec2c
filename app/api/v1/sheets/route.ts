import { readSheet } from '@/cases/sheets/readSheet';
import { serve } from '../../answer';

export const GET = serve('GET /sheets', ({ ctx, viewer, query }) => readSheet(ctx, viewer, query));
