import { readEntryOrigins, setEntryOrigins } from '@/cases/charts/entryOrigins';
import { serve } from '../../../answer';

export const GET = serve('GET /settings/entry-origins', ({ ctx }) => readEntryOrigins(ctx));
export const PUT = serve('PUT /settings/entry-origins', ({ ctx, viewer, body }) => setEntryOrigins(ctx, viewer, body));
