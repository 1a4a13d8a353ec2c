import { showMappings } from '@/cases/loads';
import { answer } from '../../answer';

export const GET = answer(({ ctx, viewer }) => showMappings(ctx, viewer));
