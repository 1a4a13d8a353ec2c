import { readTrialBalance } from '@/cases/sheets/readTrialBalance';
import { trialBalanceShape } from '@/contracts/questions';
import { answer, query } from '../../answer';

export const GET = answer((asking) => readTrialBalance(asking.ctx, asking.viewer, query(trialBalanceShape, asking)));
