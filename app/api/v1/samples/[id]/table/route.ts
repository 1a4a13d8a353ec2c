import { Readable } from 'node:stream';
import { sampleTable } from '@/cases/samples/samples';
import { idOf, named, serve } from '../../../../answer';

export const GET = serve('GET /samples/{id}/table', async ({ ctx, viewer, path: { id } }) => {
  const { stream, fileName } = await sampleTable(ctx, viewer, idOf('Sample', id));
  return new Response(Readable.toWeb(stream) as never, { headers: named(fileName, 'text/csv; charset=utf-8') });
});
