import { readColumnLayouts } from '@/cases/preferences';
import { answer } from '../../answer';

export const GET = answer(({ ctx, viewer }) => readColumnLayouts(ctx, viewer));
