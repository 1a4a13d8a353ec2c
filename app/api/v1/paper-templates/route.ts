import { keepPaperTemplate, showPaperTemplates } from '@/cases/leaving/paperTemplates';
import { serve } from '../../answer';

export const GET = serve('GET /paper-templates', ({ ctx, viewer }) => showPaperTemplates(ctx, viewer));
export const POST = serve('POST /paper-templates', ({ ctx, viewer, body }) => keepPaperTemplate(ctx, viewer, body));
