import { allowPrivate, removeConnection } from '@/cases/loads/connections';
import { connectionChangeSchema } from '@/contracts/bodies';
import { answer, body, idOf } from '../../../answer';

/** Whether the source may lie inside a private network. */
export const PUT = answer(async ({ ctx, viewer, request }, { id }) =>
  allowPrivate(ctx, viewer, idOf('Connection', id), (await body(connectionChangeSchema, request)).privateAllowed),
);
export const DELETE = answer(({ ctx, viewer }, { id }) => removeConnection(ctx, viewer, idOf('Connection', id)));
