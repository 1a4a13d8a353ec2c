import { readCalendars } from '@/cases/charts/calendars';
import { answer } from '../../answer';

export const GET = answer(({ ctx, viewer }) => readCalendars(ctx, viewer));
