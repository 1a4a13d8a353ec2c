import { ownFile } from '@/cases/loads/keptFiles';
import { queueLoad, showLoads } from '@/cases/loads/loads';
import { loadOfFileSchema, newLoadSchema } from '@/contracts/bodies/all';
import { body, serve } from '../../answer';
import { readUpload } from '../../upload';

export const GET = serve('GET /loads', ({ ctx, viewer, query }) => showLoads(ctx, viewer, query));

/** A file to load, sent with the request, or named by its digest where it was sent to be looked at before. */
export const POST = serve('POST /loads', async ({ ctx, viewer, request }) => {
  if ((request.headers.get('content-type') ?? '').startsWith('application/json')) {
    const { file, name, ...fields } = await body(loadOfFileSchema, request);
    return { id: await queueLoad(ctx, viewer, await ownFile(ctx, viewer, { name, digest: file }), fields) };
  }
  const { file, fields } = await readUpload({ ctx, viewer, request });
  return { id: await queueLoad(ctx, viewer, file, newLoadSchema.parse(fields)) };
});
