import { answerQuestion } from '@/cases/evidence/questions';
import { idOf, serve } from '../../../../answer';

export const POST = serve('POST /questions/{id}/answers', ({ ctx, viewer, path: { id }, body }) =>
  answerQuestion(ctx, viewer, idOf('Question', id), body),
);
