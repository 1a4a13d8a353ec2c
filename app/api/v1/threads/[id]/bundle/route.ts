import { askBundle } from '@/cases/leaving/askBundle';
import { idOf, serve } from '../../../../answer';

export const POST = serve('POST /threads/{id}/bundle', ({ ctx, viewer, path: { id } }) =>
  askBundle(ctx, viewer, idOf('Thread', id)),
);
