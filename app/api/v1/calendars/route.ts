import { readCalendars } from '@/cases/charts/calendars';
import { serve } from '../../answer';

export const GET = serve('GET /calendars', ({ ctx, viewer }) => readCalendars(ctx, viewer));
