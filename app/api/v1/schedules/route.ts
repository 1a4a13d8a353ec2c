import { keepSchedule, showSchedules } from '@/cases/leaving/schedules';
import { serve } from '../../answer';

export const GET = serve('GET /schedules', ({ ctx, viewer }) => showSchedules(ctx, viewer));
export const POST = serve('POST /schedules', ({ ctx, viewer, body }) => keepSchedule(ctx, viewer, body));
