import { removePin, showPin } from '@/cases/evidence/pins';
import { answer, idOf } from '../../../answer';

export const GET = answer(({ ctx, viewer }, { id }) => showPin(ctx, viewer, idOf('Pin', id)));
export const DELETE = answer(({ ctx, viewer }, { id }) => removePin(ctx, viewer, idOf('Pin', id)));
