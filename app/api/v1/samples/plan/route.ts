import { planSample } from '@/cases/samples/samples';
import { serve } from '../../../answer';

export const POST = serve('POST /samples/plan', ({ ctx, viewer, body }) => planSample(ctx, viewer, body));
