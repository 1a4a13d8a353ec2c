import { Readable } from 'node:stream';
import { handOver } from '@/cases/proposals/handOver';
import { named, serve } from '../../../answer';

export const GET = serve('GET /proposed-entries/export', async ({ ctx, viewer, query }) => {
  const { stream, fileName, mediaType, digest } = await handOver(ctx, viewer, query);
  return new Response(Readable.toWeb(stream) as never, {
    headers: { ...named(fileName, mediaType), 'content-digest-sha256': digest },
  });
});
