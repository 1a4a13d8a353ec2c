import { changePerson, removePerson } from '@/cases/people/people';
import { personChangeSchema } from '@/contracts/bodies';
import { answer, body } from '../../../answer';

export const PUT = answer(async ({ ctx, viewer, request }, { id }) =>
  changePerson(ctx, viewer, id, await body(personChangeSchema, request)),
);
export const DELETE = answer(({ ctx, viewer }, { id }) => removePerson(ctx, viewer, id));
