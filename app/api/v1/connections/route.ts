import { addConnection, showConnections } from '@/cases/loads/connections';
import { serve } from '../../answer';

export const GET = serve('GET /connections', ({ ctx, viewer }) => showConnections(ctx, viewer));
export const POST = serve('POST /connections', ({ ctx, viewer, body }) => addConnection(ctx, viewer, body));
