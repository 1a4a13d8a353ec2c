import { Readable } from 'node:stream';
import { problemsTable } from '@/cases/loads/loads';
import { answer, idOf, named } from '../../../../answer';

/** The problems of a load as CSV. */
export const GET = answer(async ({ ctx, viewer }, { id }) => {
  const stream = await problemsTable(ctx, viewer, idOf('Load', id));
  return new Response(Readable.toWeb(stream) as never, {
    headers: named(`problems-of-load-${id}.csv`, 'text/csv; charset=utf-8'),
  });
});
