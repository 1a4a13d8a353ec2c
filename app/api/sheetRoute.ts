import { Readable } from 'node:stream';
import type { Exported } from '@/cases/exports/exportData';
import type { LeavingRoute } from '@/cases/leaving/leafOf';
import { takeOutRead } from '@/cases/leaving/takeOut';
import type { LeafFormat } from '@/contracts/leaves';
import type { How } from '@/contracts/leaving';
import type { AnswerOf, ReadonlyDeep } from '@/contracts/routes';
import { type Asking, type Handler, named, serve } from './answer';

interface Leaves extends How {
  format?: LeafFormat | undefined;
}

/** A route of a sheet: answers it, or gives it as a file where a format is named. */
export function serveSheet<Name extends LeavingRoute>(
  name: Name,
  read: (asking: Asking<Name>) => Promise<ReadonlyDeep<AnswerOf<Name>>>,
): Handler {
  const use = async (asking: Asking<LeavingRoute>): Promise<unknown> => {
    const query: Leaves & object = asking.query;
    if (query.format === undefined) return read(asking as Asking<Name>);
    const exported = await takeOutRead(asking.ctx, asking.viewer, {
      name,
      of: Object.values((asking.path ?? {}) as Record<string, string>)[0] ?? '',
      query,
      search: asking.params,
    });
    return asFile(exported);
  };
  return serve(name, use as never);
}

/** A file as it is sent, with how far the record went when it left. */
export const asFile = ({ stream, fileName, mediaType, head }: Exported): Response =>
  new Response(Readable.toWeb(stream) as never, {
    headers: { ...named(fileName, mediaType), 'x-record-head': `${head.number} ${head.hash}` },
  });
