import { readSourceLinks, setSourceLink } from '@/cases/charts/sourceLinks';
import { serve } from '../../../answer';

export const GET = serve('GET /settings/source-links', ({ ctx, viewer }) => readSourceLinks(ctx, viewer));
export const PUT = serve('PUT /settings/source-links', ({ ctx, viewer, body }) => setSourceLink(ctx, viewer, body));
