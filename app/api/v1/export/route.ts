import { exportData } from '@/cases/exports/exportData';
import { serve } from '../../answer';
import { asFile } from '../../sheetRoute';

export const GET = serve('GET /export', async ({ ctx, viewer, query }) => asFile(await exportData(ctx, viewer, query)));
