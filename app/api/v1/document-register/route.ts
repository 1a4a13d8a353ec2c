import { readRegister } from '@/cases/documents/documentRegister';
import { serve } from '../../answer';

export const GET = serve('GET /document-register', ({ ctx, viewer, query }) => readRegister(ctx, viewer, query));
