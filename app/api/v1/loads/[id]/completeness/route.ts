import { proveLoad } from '@/cases/loads/proveLoad';
import { answer, idOf } from '../../../../answer';

export const GET = answer(({ ctx, viewer }, { id }) => proveLoad(ctx, viewer, idOf('Load', id)));
