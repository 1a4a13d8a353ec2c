import { readColumnLayouts } from '@/cases/people/preferences';
import { answer } from '../../answer';

export const GET = answer(({ ctx, viewer }) => readColumnLayouts(ctx, viewer));
