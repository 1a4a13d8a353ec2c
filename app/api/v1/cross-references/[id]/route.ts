import { removeReference } from '@/cases/evidence/crossReferences';
import { idOf, serve } from '../../../answer';

export const DELETE = serve('DELETE /cross-references/{id}', ({ ctx, viewer, path: { id } }) =>
  removeReference(ctx, viewer, idOf('Cross-reference', id)),
);
