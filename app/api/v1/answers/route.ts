import type { AskedTogether } from '@/contracts/askedTogether';
import { type Handler, serve } from '../../answer';
import { GET as accounts } from '../accounts/route';
import { GET as budgets } from '../budgets/route';
import { GET as columns } from '../columns/route';
import { GET as dimensions } from '../dimensions/route';
import { GET as entities } from '../entities/route';
import { GET as entry } from '../entries/[id]/route';
import { GET as lines } from '../lines/route';
import { GET as marks } from '../marks/route';
import { GET as newest } from '../newest/route';
import { GET as notes } from '../notes/route';
import { GET as pins } from '../pins/route';
import { GET as scopes } from '../scopes/route';
import { GET as sentence } from '../sentence/route';
import { GET as sheets } from '../sheets/route';
import { GET as statement } from '../statements/[code]/route';
import { GET as statements } from '../statements/route';
import { GET as thread } from '../threads/[id]/route';
import { GET as threads } from '../threads/route';
import { GET as totals } from '../totals/route';
import { GET as trialBalance } from '../trial-balance/route';

const HANDLERS: Record<AskedTogether, Handler> = {
  'GET /accounts': accounts,
  'GET /budgets': budgets,
  'GET /columns': columns,
  'GET /dimensions': dimensions,
  'GET /entities': entities,
  'GET /entries/{id}': entry,
  'GET /lines': lines,
  'GET /marks': marks,
  'GET /newest': newest,
  'GET /notes': notes,
  'GET /pins': pins,
  'GET /scopes': scopes,
  'GET /sentence': sentence,
  'GET /sheets': sheets,
  'GET /statements': statements,
  'GET /statements/{code}': statement,
  'GET /threads': threads,
  'GET /threads/{id}': thread,
  'GET /totals': totals,
  'GET /trial-balance': trialBalance,
};

/** All that a screen asks for in one round trip: each answer, or its problem, on a line of its own as soon as it is there. */
export const POST = serve('POST /answers', async ({ request, viewer, body: { asked } }) => {
  const encoder = new TextEncoder();
  const stream = new ReadableStream<Uint8Array>({
    start(controller) {
      const all = asked.map(async ({ route, path, query }, at) => {
        const url = new URL(request.url);
        url.pathname = `/api/v1${route.slice('GET '.length)}`;
        url.search = query;
        const headers = new Headers(request.headers);
        for (const name of ['content-length', 'content-type', 'transfer-encoding']) headers.delete(name);
        const own = new Request(url, { headers });
        const response = await HANDLERS[route](own, { params: Promise.resolve(path), viewer });
        // The body is JSON already, on one line: it goes on as it is.
        const line = `{"at":${at},"status":${response.status},"body":${await response.text()}}\n`;
        controller.enqueue(encoder.encode(line));
      });
      void Promise.allSettled(all).then(() => {
        try {
          controller.close();
        } catch {
          // Whoever asked has left.
        }
      });
    },
  });
  return new Response(stream, {
    headers: { 'content-type': 'application/x-ndjson', 'cache-control': 'private, no-store' },
  });
});
