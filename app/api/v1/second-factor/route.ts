import { beginSecondFactor, changeSecondFactor, secondFactorOf } from '@/cases/people/secondFactor';
import { serve } from '../../answer';

export const GET = serve('GET /second-factor', ({ ctx, viewer }) => secondFactorOf(ctx, viewer));
export const POST = serve('POST /second-factor', ({ ctx, viewer }) => beginSecondFactor(ctx, viewer));
export const PUT = serve('PUT /second-factor', ({ ctx, viewer, body }) => changeSecondFactor(ctx, viewer, body));
