import { removePin, showPin } from '@/cases/pins';
import { answer } from '../../../answer';

export const GET = answer(({ ctx, viewer }, { id }) => showPin(ctx, viewer, Number(id) || 0));
export const DELETE = answer(({ ctx, viewer }, { id }) => removePin(ctx, viewer, Number(id) || 0));
