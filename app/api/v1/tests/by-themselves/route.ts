import { setByThemselves } from '@/cases/tests/tests';
import { serve } from '../../../answer';

export const PUT = serve('PUT /tests/by-themselves', ({ ctx, viewer, body }) => setByThemselves(ctx, viewer, body));
