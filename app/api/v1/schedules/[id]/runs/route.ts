import { showRuns } from '@/cases/leaving/schedules';
import { idOf, serve } from '../../../../answer';

export const GET = serve('GET /schedules/{id}/runs', ({ ctx, viewer, path: { id } }) =>
  showRuns(ctx, viewer, idOf('Schedule', id)),
);
