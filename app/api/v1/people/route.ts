import { addPerson, people } from '@/cases/people/people';
import { newPersonSchema } from '@/contracts/bodies';
import { answer, body } from '../../answer';

export const GET = answer(async ({ ctx, viewer }) => ({ rows: await people(ctx, viewer) }));
export const POST = answer(
  async ({ ctx, viewer, request }) => addPerson(ctx, viewer, await body(newPersonSchema, request)),
  201,
);
