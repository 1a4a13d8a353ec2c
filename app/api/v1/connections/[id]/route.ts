import { removeConnection } from '@/cases/connections';
import { answer, idOf } from '../../../answer';

export const DELETE = answer(({ ctx, viewer }, { id }) => removeConnection(ctx, viewer, idOf('Connection', id)));
