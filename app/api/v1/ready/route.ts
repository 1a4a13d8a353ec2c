import { context } from '@/cases/asking/context';
import { isReady } from '@/cases/upkeep/health';
import { guarded } from '../../answer';

export const dynamic = 'force-dynamic';

export const GET = (): Promise<Response> =>
  guarded(async () => {
    const { ready, ...health } = await isReady(context());
    return Response.json(health, { status: ready ? 200 : 503, headers: { 'cache-control': 'no-store' } });
  });
