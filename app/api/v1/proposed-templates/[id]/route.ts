import { dropTemplate } from '@/cases/proposals/templates';
import { idOf, serve } from '../../../answer';

export const DELETE = serve('DELETE /proposed-templates/{id}', ({ ctx, viewer, path: { id } }) =>
  dropTemplate(ctx, viewer, idOf('Template', id)),
);
