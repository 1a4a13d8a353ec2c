import { askExport, showExports } from '@/cases/leaving/exports';
import { serve } from '../../answer';

export const GET = serve('GET /exports', ({ ctx, viewer }) => showExports(ctx, viewer));
export const POST = serve('POST /exports', ({ ctx, viewer, body }) => askExport(ctx, viewer, body));
