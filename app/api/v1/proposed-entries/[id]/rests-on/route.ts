import { restsOn } from '@/cases/proposals/restsOn';
import { idOf, serve } from '../../../../answer';

export const GET = serve('GET /proposed-entries/{id}/rests-on', ({ ctx, viewer, path: { id } }) =>
  restsOn(ctx, viewer, idOf('Proposed entry', id)),
);
