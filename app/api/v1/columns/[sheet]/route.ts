import { keepColumnLayout } from '@/cases/people/preferences';
import { sheetNameSchema } from '@/contracts/bodies/all';
import { serve } from '../../../answer';

export const PUT = serve('PUT /columns/{sheet}', ({ ctx, viewer, body, path: { sheet } }) =>
  keepColumnLayout(ctx, viewer, sheetNameSchema.parse(sheet), body),
);
export const DELETE = serve('DELETE /columns/{sheet}', ({ ctx, viewer, path: { sheet } }) =>
  keepColumnLayout(ctx, viewer, sheetNameSchema.parse(sheet), null),
);
