import { readFigures } from '@/cases/sheets/readFigures';
import { serve } from '../../answer';

/** Many figures at once, in the order in which they are asked for. */
export const POST = serve('POST /figures', ({ ctx, viewer, body }) => readFigures(ctx, viewer, body.figures));
