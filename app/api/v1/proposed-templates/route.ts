import { keepTemplate, listTemplates } from '@/cases/proposals/templates';
import { serve } from '../../answer';

export const GET = serve('GET /proposed-templates', ({ ctx, viewer }) => listTemplates(ctx, viewer));
export const POST = serve('POST /proposed-templates', ({ ctx, viewer, body }) => keepTemplate(ctx, viewer, body));
