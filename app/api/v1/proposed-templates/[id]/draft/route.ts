import { fillTemplate } from '@/cases/proposals/templates';
import { idOf, serve } from '../../../../answer';

export const POST = serve('POST /proposed-templates/{id}/draft', ({ ctx, viewer, path: { id }, body }) =>
  fillTemplate(ctx, viewer, idOf('Template', id), body),
);
