import { readMarkRules, setMarkRules } from '@/cases/sheets/marks';
import { serve } from '../../../answer';

export const GET = serve('GET /settings/marks', ({ ctx }) => readMarkRules(ctx));
export const PUT = serve('PUT /settings/marks', ({ ctx, viewer, body }) => setMarkRules(ctx, viewer, body));
