import { saveThread } from '@/cases/evidence/threads/keep';
import { listThreads } from '@/cases/evidence/threads/shown';
import { newThreadSchema } from '@/contracts/bodies';
import { answer, body } from '../../answer';

export const GET = answer(({ ctx, viewer }) => listThreads(ctx, viewer));
export const POST = answer(
  async ({ ctx, viewer, request }) => saveThread(ctx, viewer, await body(newThreadSchema, request)),
  201,
);
