import { readAccounts } from '@/cases/charts/accounts';
import { scopeShape } from '@/contracts/scope';
import { answer, query } from '../../answer';

export const GET = answer((asking) => readAccounts(asking.ctx, asking.viewer, query(scopeShape, asking)));
