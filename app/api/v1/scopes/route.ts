import { keepSentence, showKeptScopes } from '@/cases/people/keptScopes';
import { serve } from '../../answer';

export const GET = serve('GET /scopes', ({ ctx, viewer }) => showKeptScopes(ctx, viewer));
export const POST = serve('POST /scopes', ({ ctx, viewer, body }) => keepSentence(ctx, viewer, body));
