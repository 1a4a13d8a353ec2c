import { listPins, pin } from '@/cases/evidence/pins';
import { newPinSchema } from '@/contracts/bodies';
import { evidenceShape } from '@/contracts/questions';
import { answer, body, query } from '../../answer';

export const GET = answer((asking) => listPins(asking.ctx, asking.viewer, query(evidenceShape, asking).entity));
export const POST = answer(
  async ({ ctx, viewer, request }) => pin(ctx, viewer, await body(newPinSchema, request)),
  201,
);
