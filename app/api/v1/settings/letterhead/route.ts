import { readLetterhead, setLetterhead } from '@/cases/leaving/letterhead';
import { serve } from '../../../answer';

export const GET = serve('GET /settings/letterhead', ({ ctx }) => readLetterhead(ctx));
export const PUT = serve('PUT /settings/letterhead', ({ ctx, viewer, body }) => setLetterhead(ctx, viewer, body));
