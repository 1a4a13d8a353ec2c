import { askLook } from '@/cases/loads/askLook';
import { answer } from '../../answer';
import { readUpload } from '../../upload';

/** Keeps a file and has it looked at; nothing is loaded yet. */
export const POST = answer(async (asking) => {
  const { file } = await readUpload(asking);
  return { ...(await askLook(asking.ctx, asking.viewer, file, {})), name: file.name, bytes: file.bytes };
}, 201);
