import { desk } from '@/cases/desk/desk';
import { serve } from '../../answer';

export const GET = serve('GET /desk', ({ ctx, viewer }) => desk(ctx, viewer));
