import { inspectFile } from '@/cases/inspectFile';
import { require } from '@/cases/viewer';
import { answer } from '../../answer';
import { readUpload } from '../../upload';

/** Keeps a file and looks at it; nothing is loaded yet. */
export const POST = answer(async (asking) => {
  require(asking.viewer, 'preparer', 'load data');
  const { file } = await readUpload(asking);
  return { ...(await inspectFile(asking.ctx, asking.viewer, file.digest, {})), name: file.name, bytes: file.bytes };
}, 201);
