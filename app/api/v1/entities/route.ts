import { addEntity, listEntities } from '@/cases/charts/entities';
import { serve } from '../../answer';

export const GET = serve('GET /entities', ({ ctx, viewer }) => listEntities(ctx, viewer));
export const POST = serve('POST /entities', ({ ctx, viewer, body }) => addEntity(ctx, viewer, body));
