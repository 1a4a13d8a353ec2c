import { keepOutline, readOutline, removeOutline } from '@/cases/statements/outlines';
import { keptOutlineSchema } from '@/contracts/bodies';
import { outlineShape } from '@/contracts/questions';
import type { Outline } from '@/core/statement';
import { answer, body, query } from '../../../../answer';

export const GET = answer((asking, { code = '' }) => readOutline(asking.ctx, asking.viewer, code, query(outlineShape, asking)));
export const PUT = answer(async ({ ctx, viewer, request }, { code = '' }) => {
  const { entity, outline } = await body(keptOutlineSchema, request);
  return keepOutline(ctx, viewer, code, { entity, outline: outline as Outline });
});
export const DELETE = answer((asking, { code = '' }) => removeOutline(asking.ctx, asking.viewer, code, query(outlineShape, asking)));
