import { Readable } from 'node:stream';
import { readAttachment } from '@/cases/documents/readDocument';
import { removeFile } from '@/cases/evidence/files';
import { idOf, named, serve } from '../../../answer';

/** As a file to keep; pictures and PDF also to be looked at in place, which is all that a browser is let do with them. */
export const GET = serve('GET /attachments/{digest}', async ({ ctx, viewer, params, path: { digest } }) => {
  const { stream, name, mediaType } = await readAttachment(ctx, viewer, digest);
  const shown = params.get('show') === 'yes' && mediaType !== null;
  const headers = named(name, shown ? mediaType : 'application/octet-stream');
  if (shown) headers['content-disposition'] = 'inline';
  return new Response(Readable.toWeb(stream) as never, { headers });
});
/** Named by the number that attaching it gave: the same bytes may be attached elsewhere, and stay there. */
export const DELETE = serve('DELETE /attachments/{digest}', ({ ctx, viewer, path: { digest } }) =>
  removeFile(ctx, viewer, idOf('File', digest)),
);
