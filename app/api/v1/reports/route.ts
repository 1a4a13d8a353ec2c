import { keepReport, showReports } from '@/cases/leaving/reports';
import { serve } from '../../answer';

export const GET = serve('GET /reports', ({ ctx, viewer }) => showReports(ctx, viewer));
export const POST = serve('POST /reports', ({ ctx, viewer, body }) => keepReport(ctx, viewer, body));
