import { showFrozen } from '@/cases/leaving/frozen';
import { serve } from '../../../answer';

export const GET = serve('GET /frozen/{id}', ({ ctx, viewer, path: { id } }) => showFrozen(ctx, viewer, id));
