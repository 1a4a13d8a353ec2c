import { readCalendars } from '@/cases/charts';
import { answer } from '../../answer';

export const GET = answer(({ ctx, viewer }) => readCalendars(ctx, viewer));
