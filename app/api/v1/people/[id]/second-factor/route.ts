import { endSecondFactor } from '@/cases/people/secondFactor';
import { serve } from '../../../../answer';

export const DELETE = serve('DELETE /people/{id}/second-factor', ({ ctx, viewer, path: { id } }) =>
  endSecondFactor(ctx, viewer, id),
);
