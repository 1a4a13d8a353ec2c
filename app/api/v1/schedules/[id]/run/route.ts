import { runNow } from '@/cases/leaving/schedules';
import { idOf, serve } from '../../../../answer';

export const POST = serve('POST /schedules/{id}/run', ({ ctx, viewer, path: { id } }) =>
  runNow(ctx, viewer, idOf('Schedule', id)),
);
