import { checkExport } from '@/cases/exports/checkExport';
import { serve } from '../../../answer';

export const GET = serve('GET /export/check', ({ ctx, viewer, query }) => checkExport(ctx, viewer, query));
