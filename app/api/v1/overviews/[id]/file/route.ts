import { overviewFile } from '@/cases/leaving/overviews';
import { idOf, serve } from '../../../../answer';
import { asFile } from '../../../../sheetRoute';

export const GET = serve('GET /overviews/{id}/file', async ({ ctx, viewer, query, path: { id } }) =>
  asFile(await overviewFile(ctx, viewer, idOf('Overview', id), query)),
);
