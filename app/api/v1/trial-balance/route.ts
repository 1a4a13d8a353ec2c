import { readTrialBalance } from '@/cases/sheets/readTrialBalance';
import { serveSheet } from '../../sheetRoute';

export const GET = serveSheet('GET /trial-balance', ({ ctx, viewer, query }) => readTrialBalance(ctx, viewer, query));
