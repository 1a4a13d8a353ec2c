import { makeEmbed, showEmbeds } from '@/cases/leaving/embeds';
import { serve } from '../../answer';

export const GET = serve('GET /embeds', ({ ctx, viewer }) => showEmbeds(ctx, viewer));
export const POST = serve('POST /embeds', ({ ctx, viewer, body }) => makeEmbed(ctx, viewer, body));
