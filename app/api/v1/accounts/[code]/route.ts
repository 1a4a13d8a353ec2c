import { nameAccount } from '@/cases/charts/accounts';
import { serve } from '../../../answer';

export const PUT = serve('PUT /accounts/{code}', ({ ctx, viewer, body, path: { code } }) =>
  nameAccount(ctx, viewer, code, body),
);
