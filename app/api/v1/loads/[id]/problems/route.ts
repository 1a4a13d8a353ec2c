import { Readable } from 'node:stream';
import { problemsTable } from '@/cases/loads/loads';
import { idOf, named, serve } from '../../../../answer';

/** The problems of a load as CSV. */
export const GET = serve('GET /loads/{id}/problems', async ({ ctx, viewer, path: { id } }) => {
  const stream = await problemsTable(ctx, viewer, idOf('Load', id));
  return new Response(Readable.toWeb(stream) as never, {
    headers: named(`problems-of-load-${id}.csv`, 'text/csv; charset=utf-8'),
  });
});
