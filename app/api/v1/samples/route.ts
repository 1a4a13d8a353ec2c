import { drawSample, listSamples } from '@/cases/samples/samples';
import { serve } from '../../answer';

export const GET = serve('GET /samples', ({ ctx, viewer, query }) => listSamples(ctx, viewer, query));
export const POST = serve('POST /samples', ({ ctx, viewer, body }) => drawSample(ctx, viewer, body));
