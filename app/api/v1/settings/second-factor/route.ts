import { secondFactorRule, setSecondFactorRule } from '@/cases/people/secondFactor';
import { serve } from '../../../answer';

export const GET = serve('GET /settings/second-factor', ({ ctx }) => secondFactorRule(ctx));
export const PUT = serve('PUT /settings/second-factor', ({ ctx, viewer, body }) =>
  setSecondFactorRule(ctx, viewer, body),
);
