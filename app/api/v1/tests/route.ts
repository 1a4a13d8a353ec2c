import { showTests } from '@/cases/tests/tests';
import { serve } from '../../answer';

export const GET = serve('GET /tests', ({ ctx, viewer }) => showTests(ctx, viewer));
