import { showMappings } from '@/cases/loads/loads';
import { answer } from '../../answer';

export const GET = answer(({ ctx, viewer }) => showMappings(ctx, viewer));
