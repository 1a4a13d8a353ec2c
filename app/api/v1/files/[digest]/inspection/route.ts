import { askLook } from '@/cases/loads/askLook';
import { serve } from '../../../../answer';

/** The same file looked at with what has been settled by hand. */
export const POST = serve('POST /files/{digest}/inspection', ({ ctx, viewer, body, path: { digest } }) =>
  askLook(ctx, viewer, { digest, name: body.name ?? 'file' }, body),
);
