import { toldMetrics } from '@/cases/upkeep/health';
import { bearerOf, fromOf, guarded } from '../../answer';

export const dynamic = 'force-dynamic';

export const GET = (request: Request): Promise<Response> =>
  guarded(async () => {
    const { text, mediaType } = await toldMetrics(fromOf(request).address, bearerOf(request));
    return new Response(text, { headers: { 'content-type': mediaType, 'cache-control': 'no-store' } });
  });
