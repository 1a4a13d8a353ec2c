import { removeHolding } from '@/cases/charts/holdings';
import { serve } from '../../../../answer';

export const DELETE = serve('DELETE /holdings/{entity}/{number}', ({ ctx, viewer, path: { entity, number } }) =>
  removeHolding(ctx, viewer, { entity, number }),
);
