import { readMarks } from '@/cases/sheets/marks';
import { serve } from '../../answer';

export const GET = serve('GET /marks', ({ ctx, viewer, query }) => readMarks(ctx, viewer, query));
