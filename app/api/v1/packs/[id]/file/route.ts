import { packCopyFile } from '@/cases/leaving/packs';
import { idOf, serve } from '../../../../answer';
import { asFile } from '../../../../sheetRoute';

export const GET = serve('GET /packs/{id}/file', async ({ ctx, viewer, query, path: { id } }) =>
  asFile(await packCopyFile(ctx, viewer, idOf('Pack', id), query)),
);
