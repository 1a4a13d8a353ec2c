import { readEnteredTimes } from '@/cases/pictures/enteredTimes';
import { serve } from '../../answer';

export const GET = serve('GET /entered-times', ({ ctx, viewer, query }) => readEnteredTimes(ctx, viewer, query));
