import { nameMember } from '@/cases/charts/dimensions';
import { serve } from '../../../../answer';

export const PUT = serve('PUT /dimensions/{dimension}/{code}', ({ ctx, viewer, body, path: { dimension, code } }) =>
  nameMember(ctx, viewer, code, { ...body, dimension }),
);
