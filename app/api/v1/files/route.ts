import { askLook } from '@/cases/loads/askLook';
import { serve } from '../../answer';
import { readUpload } from '../../upload';

/** Keeps a file and has it looked at; nothing is loaded yet. */
export const POST = serve('POST /files', async ({ ctx, viewer, request }) => {
  const { file } = await readUpload({ ctx, viewer, request });
  return { ...(await askLook(ctx, viewer, file, {})), name: file.name, bytes: file.bytes };
});
