import { askColleague, listQuestions } from '@/cases/evidence/questions';
import { serve } from '../../answer';

export const GET = serve('GET /questions', ({ ctx, viewer, query }) => listQuestions(ctx, viewer, query));
export const POST = serve('POST /questions', ({ ctx, viewer, body }) => askColleague(ctx, viewer, body));
