import { resetPassword } from '@/cases/people/passwordChanges';
import { serve } from '../../../../answer';

/** A link with which the person chooses a new password, once. */
export const POST = serve('POST /people/{id}/reset', ({ ctx, viewer, path: { id } }) => resetPassword(ctx, viewer, id));
