import { openGuesses } from '@/cases/loads/guesses';
import { serve } from '../../answer';

export const GET = serve('GET /guesses', ({ ctx, viewer }) => openGuesses(ctx, viewer));
