import { askProposal } from '@/cases/loads/askProposal';
import { serve } from '../../../../answer';

export const POST = serve('POST /files/{digest}/proposal', ({ ctx, viewer, body, path: { digest } }) =>
  askProposal(ctx, viewer, digest, body),
);
