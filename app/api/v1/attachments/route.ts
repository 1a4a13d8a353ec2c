import { attach, keepEvidenceFile, listFiles } from '@/cases/evidence/files';
import { attachmentSchema } from '@/contracts/bodies/all';
import { serve } from '../../answer';
import { readUpload } from '../../upload';

export const GET = serve('GET /attachments', ({ ctx, viewer, query }) => listFiles(ctx, viewer, query));
export const POST = serve('POST /attachments', async ({ ctx, viewer, request }) => {
  const { file, fields } = await readUpload({
    ...{ ctx, viewer, request },
    keep: (name, content) => keepEvidenceFile(ctx, name, content),
  });
  return attach(ctx, viewer, file, attachmentSchema.parse(fields));
});
