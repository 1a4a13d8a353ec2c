import { notFound } from '@/contracts/problem';
import { guarded } from '../answer';

/** Whatever is no route of ours is told so like everything else, whoever asks and whatever they send. */
const nowhere = (request: Request): Promise<Response> =>
  guarded(async () => {
    throw notFound(new URL(request.url).pathname);
  });

export const GET = nowhere;
export const HEAD = nowhere;
export const POST = nowhere;
export const PUT = nowhere;
export const PATCH = nowhere;
export const DELETE = nowhere;
export const OPTIONS = nowhere;
