import { showExport } from '@/cases/leaving/exports';
import { idOf, serve } from '../../../answer';

export const GET = serve('GET /exports/{id}', ({ ctx, viewer, path: { id } }) =>
  showExport(ctx, viewer, idOf('Export', id)),
);
