import { Readable } from 'node:stream';
import { recordTable } from '@/cases/upkeep/readRecord';
import { named, serve } from '../../../answer';

export const GET = serve('GET /record/table', async ({ ctx, viewer, query }) => {
  const { stream, fileName, head } = await recordTable(ctx, viewer, query);
  const headers = { ...named(fileName, 'text/csv; charset=utf-8'), 'x-record-head': `${head.number} ${head.hash}` };
  return new Response(Readable.toWeb(stream) as never, { headers });
});
