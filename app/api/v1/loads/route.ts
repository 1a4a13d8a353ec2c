import { require } from '@/cases/asking/viewer';
import { keptFile } from '@/cases/loads/keptFiles';
import { queueLoad, showLoads } from '@/cases/loads/loads';
import { loadOfFileSchema, newLoadSchema } from '@/contracts/bodies';
import { loadListShape } from '@/contracts/questions';
import { answer, body, query } from '../../answer';
import { readUpload } from '../../upload';

export const GET = answer((asking) => showLoads(asking.ctx, asking.viewer, query(loadListShape, asking)));

/** A file to load, sent with the request, or named by its digest where it was sent to be looked at before. */
export const POST = answer(async (asking) => {
  const { ctx, viewer, request } = asking;
  require(viewer, 'preparer', 'load data');
  if ((request.headers.get('content-type') ?? '').startsWith('application/json')) {
    const { file, name, ...fields } = await body(loadOfFileSchema, request);
    return { id: await queueLoad(ctx, viewer, await keptFile(ctx, name, file), fields) };
  }
  const { file, fields } = await readUpload(asking);
  return { id: await queueLoad(ctx, viewer, file, newLoadSchema.parse(fields)) };
}, 202);
