import { nameMember } from '@/cases/charts/dimensions';
import { memberNameSchema } from '@/contracts/bodies';
import { answer, body } from '../../../../answer';

export const PUT = answer(async ({ ctx, viewer, request }, { dimension = '', code = '' }) =>
  nameMember(ctx, viewer, code, { ...(await body(memberNameSchema, request)), dimension }),
);
