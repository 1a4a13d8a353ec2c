import { confirmGuesses } from '@/cases/loads/guesses';
import { serve } from '../../../answer';

export const PUT = serve('PUT /guesses/{entity}', ({ ctx, viewer, body, path: { entity } }) =>
  confirmGuesses(ctx, viewer, entity, body),
);
