import { readEmbedOrigins, setEmbedOrigins } from '@/cases/leaving/embeds';
import { serve } from '../../../answer';

export const GET = serve('GET /settings/embeds', ({ ctx }) => readEmbedOrigins(ctx));
export const PUT = serve('PUT /settings/embeds', ({ ctx, viewer, body }) => setEmbedOrigins(ctx, viewer, body));
