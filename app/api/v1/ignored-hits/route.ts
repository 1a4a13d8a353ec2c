import { ignoreAlike, showIgnored } from '@/cases/tests/ignored';
import { serve } from '../../answer';

export const GET = serve('GET /ignored-hits', ({ ctx, viewer }) => showIgnored(ctx, viewer));
export const POST = serve('POST /ignored-hits', ({ ctx, viewer, body }) => ignoreAlike(ctx, viewer, body));
