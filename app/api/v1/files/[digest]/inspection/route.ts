import { askLook } from '@/cases/loads/askLook';
import { inspectionSchema } from '@/contracts/bodies';
import { answer, body } from '../../../../answer';

/** The same file looked at with what has been settled by hand. */
export const POST = answer(async ({ ctx, viewer, request }, { digest = '' }) =>
  askLook(ctx, viewer, { digest, name: 'file' }, await body(inspectionSchema, request)),
);
