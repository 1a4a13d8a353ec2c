import { resetPassword } from '@/cases/people/people';
import { answer } from '../../../../answer';

/** A link with which the person chooses a new password, once. */
export const POST = answer(({ ctx, viewer }, { id }) => resetPassword(ctx, viewer, id), 201);
