import { exportFile } from '@/cases/leaving/exports';
import { idOf, serve } from '../../../../answer';
import { asFile } from '../../../../sheetRoute';

export const GET = serve('GET /exports/{id}/file', async ({ ctx, viewer, path: { id } }) =>
  asFile(await exportFile(ctx, viewer, idOf('Export', id))),
);
