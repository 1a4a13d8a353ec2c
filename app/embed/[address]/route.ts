import { context, whoAsks } from '@/cases/asking/context';
import { embedded } from '@/cases/leaving/embeds';
import { ProblemError } from '@/contracts/problem';

/** A panel for a page elsewhere: one document with nothing to run, which only the pages that an owner named may frame. */
export async function GET(_request: Request, { params }: { params: Promise<{ address: string }> }): Promise<Response> {
  const { address } = await params;
  const waiting = whoAsks();
  try {
    const { html, origins, person } = await embedded(context(), address, waiting?.locale ?? 'en');
    if (waiting) waiting.person = person;
    return page(200, html, origins);
  } catch (error) {
    if (error instanceof ProblemError)
      return page(404, '<!doctype html><title>Not here</title><p>This panel is not here any more.</p>', []);
    throw error;
  }
}

const page = (status: number, html: string, origins: readonly string[]): Response =>
  new Response(html, {
    status,
    headers: {
      'content-type': 'text/html; charset=utf-8',
      'cache-control': 'no-store',
      'referrer-policy': 'no-referrer',
      'content-security-policy': [
        "default-src 'none'",
        "style-src 'unsafe-inline'",
        "base-uri 'none'",
        "form-action 'none'",
        `frame-ancestors ${origins.length === 0 ? "'none'" : origins.join(' ')}`,
      ].join('; '),
    },
  });
