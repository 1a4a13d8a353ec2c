import { Readable } from 'node:stream';
import { exportData } from '@/cases/exports/exportData';
import { named, serve } from '../../answer';

export const GET = serve('GET /export', async ({ ctx, viewer, query }) => {
  const { stream, fileName, mediaType, head } = await exportData(ctx, viewer, query);
  return new Response(Readable.toWeb(stream) as never, {
    headers: { ...named(fileName, mediaType), 'x-record-head': `${head.number} ${head.hash}` },
  });
});
