import { showQuestion } from '@/cases/evidence/questions';
import { idOf, serve } from '../../../answer';

export const GET = serve('GET /questions/{id}', ({ ctx, viewer, path: { id } }) =>
  showQuestion(ctx, viewer, idOf('Question', id)),
);
