import { draftEntry } from '@/cases/proposals/draft';
import { serve } from '../../../answer';

export const POST = serve('POST /proposed-entries/draft', ({ ctx, viewer, body }) => draftEntry(ctx, viewer, body));
