import { readAgeBands, setAgeBands } from '@/cases/documents/ageBands';
import { serve } from '../../../answer';

export const GET = serve('GET /settings/ages', ({ ctx }) => readAgeBands(ctx));
export const PUT = serve('PUT /settings/ages', ({ ctx, viewer, body }) => setAgeBands(ctx, viewer, body));
