import { nameAccount } from '@/cases/charts/accounts';
import { accountNameSchema } from '@/contracts/bodies';
import { answer, body } from '../../../answer';

export const PUT = answer(async ({ ctx, viewer, request }, { code = '' }) =>
  nameAccount(ctx, viewer, code, await body(accountNameSchema, request)),
);
