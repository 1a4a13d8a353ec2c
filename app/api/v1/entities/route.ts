import { addEntity, listEntities } from '@/cases/charts/entities';
import { newEntitySchema } from '@/contracts/bodies';
import { answer, body } from '../../answer';

export const GET = answer(({ ctx, viewer }) => listEntities(ctx, viewer));
export const POST = answer(
  async ({ ctx, viewer, request }) => addEntity(ctx, viewer, await body(newEntitySchema, request)),
  201,
);
