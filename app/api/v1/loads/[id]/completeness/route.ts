import { proveLoad } from '@/cases/loads/proveLoad';
import { idOf, serve } from '../../../../answer';

export const GET = serve('GET /loads/{id}/completeness', ({ ctx, viewer, path: { id } }) =>
  proveLoad(ctx, viewer, idOf('Load', id)),
);
