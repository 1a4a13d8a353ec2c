import { readSourceLinks, setSourceLink } from '@/cases/charts/sourceLinks';
import { sourceLinkSchema } from '@/contracts/bodies';
import { answer, body } from '../../../answer';

export const GET = answer(({ ctx, viewer }) => readSourceLinks(ctx, viewer));
export const PUT = answer(async ({ ctx, viewer, request }) =>
  setSourceLink(ctx, viewer, await body(sourceLinkSchema, request)),
);
