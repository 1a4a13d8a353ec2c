import { addConnection, showConnections } from '@/cases/loads/connections';
import { connectionSchema } from '@/contracts/bodies';
import { answer, body } from '../../answer';

export const GET = answer(({ ctx, viewer }) => showConnections(ctx, viewer));
export const POST = answer(
  async ({ ctx, viewer, request }) => addConnection(ctx, viewer, await body(connectionSchema, request)),
  201,
);
