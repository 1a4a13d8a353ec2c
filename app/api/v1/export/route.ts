import { Readable } from 'node:stream';
import { exportData } from '@/cases/exports/exportData';
import { exportShape } from '@/contracts/questions';
import { answer, named, query } from '../../answer';

export const GET = answer(async (asking) => {
  const { stream, fileName, mediaType, head } = await exportData(asking.ctx, asking.viewer, query(exportShape, asking));
  return new Response(Readable.toWeb(stream) as never, {
    headers: { ...named(fileName, mediaType), 'x-record-head': `${head.number} ${head.hash}` },
  });
});
