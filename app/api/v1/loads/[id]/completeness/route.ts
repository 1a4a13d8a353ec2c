import { proveLoad } from '@/cases/proveLoad';
import { answer, idOf } from '../../../../answer';

export const GET = answer(({ ctx, viewer }, { id }) => proveLoad(ctx, viewer, idOf('Load', id)));
