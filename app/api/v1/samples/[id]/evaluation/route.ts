import { evaluateSample } from '@/cases/samples/samples';
import { idOf, serve } from '../../../../answer';

export const GET = serve('GET /samples/{id}/evaluation', ({ ctx, viewer, path: { id } }) =>
  evaluateSample(ctx, viewer, idOf('Sample', id)),
);
