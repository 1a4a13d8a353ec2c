import { letBeKnownAnew } from '@/cases/people/provider';
import { serve } from '../../../../answer';

export const DELETE = serve('DELETE /people/{id}/identity', ({ ctx, viewer, path: { id } }) =>
  letBeKnownAnew(ctx, viewer, id),
);
