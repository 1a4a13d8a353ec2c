import { keepPack, showPacks } from '@/cases/leaving/packs';
import { serve } from '../../answer';

export const GET = serve('GET /packs', ({ ctx, viewer }) => showPacks(ctx, viewer));
export const POST = serve('POST /packs', ({ ctx, viewer, body }) => keepPack(ctx, viewer, body));
