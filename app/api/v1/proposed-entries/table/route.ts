import { proposeTable } from '@/cases/proposals/table';
import { serve } from '../../../answer';

export const POST = serve('POST /proposed-entries/table', ({ ctx, viewer, body }) => proposeTable(ctx, viewer, body));
