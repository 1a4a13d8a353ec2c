import { Readable } from 'node:stream';
import { loadedFile } from '@/cases/loads/loads';
import { idOf, named, serve } from '../../../../answer';

/** The file as it came, by its content hash. */
export const GET = serve('GET /loads/{id}/file', async ({ ctx, viewer, path: { id } }) => {
  const { stream, name, bytes } = await loadedFile(ctx, viewer, idOf('Load', id));
  return new Response(Readable.toWeb(stream) as never, {
    headers: { ...named(name, 'application/octet-stream'), 'content-length': String(bytes) },
  });
});
