import { keepColumnLayout } from '@/cases/people/preferences';
import { columnLayoutSchema, sheetNameSchema } from '@/contracts/bodies';
import { answer, body } from '../../../answer';

export const PUT = answer(async ({ ctx, viewer, request }, { sheet }) =>
  keepColumnLayout(ctx, viewer, sheetNameSchema.parse(sheet), await body(columnLayoutSchema, request)),
);
export const DELETE = answer(({ ctx, viewer }, { sheet }) =>
  keepColumnLayout(ctx, viewer, sheetNameSchema.parse(sheet), null),
);
