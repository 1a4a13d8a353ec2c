import { showCopies } from '@/cases/leaving/packs';
import { idOf, serve } from '../../../../answer';

export const GET = serve('GET /packs/{id}/copies', ({ ctx, viewer, path: { id } }) =>
  showCopies(ctx, viewer, idOf('Pack', id)),
);
