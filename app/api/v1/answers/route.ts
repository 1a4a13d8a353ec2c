import { serve } from '../../answer';
import { handlerOf } from '../../handlers';

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
        const response = await handlerOf(route)(own, { params: Promise.resolve(path), viewer });
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
