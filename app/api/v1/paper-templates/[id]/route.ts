import { dropPaperTemplate } from '@/cases/leaving/paperTemplates';
import { idOf, serve } from '../../../answer';

export const DELETE = serve('DELETE /paper-templates/{id}', ({ ctx, viewer, path: { id } }) =>
  dropPaperTemplate(ctx, viewer, idOf('Template', id)),
);
