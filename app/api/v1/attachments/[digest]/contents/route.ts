import { showContents } from '@/cases/evidence/files';
import { serve } from '../../../../answer';

export const GET = serve('GET /attachments/{digest}/contents', ({ ctx, viewer, path: { digest } }) =>
  showContents(ctx, viewer, digest),
);
