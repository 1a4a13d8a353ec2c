import { showMappings } from '@/cases/loads/loads';
import { serve } from '../../answer';

export const GET = serve('GET /mappings', ({ ctx, viewer }) => showMappings(ctx, viewer));
