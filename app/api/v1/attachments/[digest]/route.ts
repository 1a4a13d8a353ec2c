import { Readable } from 'node:stream';
import { readAttachment } from '@/cases/readDocument';
import { answer, named } from '../../../answer';

export const GET = answer(async ({ ctx, viewer }, { digest = '' }) => {
  const { stream, name } = await readAttachment(ctx, viewer, digest);
  return new Response(Readable.toWeb(stream) as never, { headers: named(name, 'application/octet-stream') });
});
