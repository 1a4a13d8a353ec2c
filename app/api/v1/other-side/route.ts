import { readOtherSide } from '@/cases/sheets/readOtherSide';
import { serve } from '../../answer';

export const GET = serve('GET /other-side', ({ ctx, viewer, query }) => readOtherSide(ctx, viewer, query));
