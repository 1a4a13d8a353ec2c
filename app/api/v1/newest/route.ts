import { newest } from '@/cases/loads/loads';
import { serve } from '../../answer';

/** The number of the newest load, asked often by open screens. */
export const GET = serve('GET /newest', ({ ctx }) => newest(ctx));
