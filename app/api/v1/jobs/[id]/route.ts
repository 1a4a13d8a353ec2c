import { cancelJob, showJob } from '@/cases/jobs/jobs';
import { idOf, serve } from '../../../answer';

export const GET = serve('GET /jobs/{id}', ({ ctx, viewer, path: { id } }) => showJob(ctx, viewer, idOf('Job', id)));
/** Asks it to stop. */
export const DELETE = serve('DELETE /jobs/{id}', ({ ctx, viewer, path: { id } }) =>
  cancelJob(ctx, viewer, idOf('Job', id)),
);
