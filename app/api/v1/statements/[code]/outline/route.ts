import { keepOutline, readOutline, removeOutline } from '@/cases/statements/outlines';
import { keptOutlineSchema } from '@/contracts/bodies';
import { outlineShape } from '@/contracts/questions';
import { answer, body, query } from '../../../../answer';

export const GET = answer((asking, { code = '' }) =>
  readOutline(asking.ctx, asking.viewer, code, query(outlineShape, asking)),
);
export const PUT = answer(async ({ ctx, viewer, request }, { code = '' }) =>
  keepOutline(ctx, viewer, code, await body(keptOutlineSchema, request)),
);
export const DELETE = answer((asking, { code = '' }) =>
  removeOutline(asking.ctx, asking.viewer, code, query(outlineShape, asking)),
);
