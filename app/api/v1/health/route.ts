import { context } from '@/cases/asking/context';
import { databaseAnswers } from '@/cases/upkeep/health';
import { guarded } from '../../answer';

export const dynamic = 'force-dynamic';

export const GET = (): Promise<Response> =>
  guarded(async () => {
    const health = await databaseAnswers(context());
    return Response.json(health, { status: health.status === 'ok' ? 200 : 503 });
  });
