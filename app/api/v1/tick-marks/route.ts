import { keepTickMarks, tickMarks } from '@/cases/evidence/ticks';
import { serve } from '../../answer';

export const GET = serve('GET /tick-marks', ({ ctx }) => tickMarks(ctx));
export const PUT = serve('PUT /tick-marks', ({ ctx, viewer, body }) => keepTickMarks(ctx, viewer, body));
