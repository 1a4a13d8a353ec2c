import { dropSchedule, scheduleChanged } from '@/cases/leaving/schedules';
import { idOf, serve } from '../../../answer';

export const PUT = serve('PUT /schedules/{id}', ({ ctx, viewer, body, path: { id } }) =>
  scheduleChanged(ctx, viewer, idOf('Schedule', id), body),
);
export const DELETE = serve('DELETE /schedules/{id}', ({ ctx, viewer, path: { id } }) =>
  dropSchedule(ctx, viewer, idOf('Schedule', id)),
);
