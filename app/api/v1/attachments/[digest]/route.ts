import { Readable } from 'node:stream';
import { readAttachment } from '@/cases/documents/readDocument';
import { named, serve } from '../../../answer';

/** As a file to keep; pictures and PDF also to be looked at in place, which is all that a browser is let do with them. */
export const GET = serve('GET /attachments/{digest}', async ({ ctx, viewer, params, path: { digest } }) => {
  const { stream, name, mediaType } = await readAttachment(ctx, viewer, digest);
  const shown = params.get('show') === 'yes' && mediaType !== null;
  const headers = named(name, shown ? mediaType : 'application/octet-stream');
  if (shown) headers['content-disposition'] = 'inline';
  return new Response(Readable.toWeb(stream) as never, { headers });
});
