import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';

/**
 * A small stand-in for a source ledger: a local service that gives journal lines page by page, by the field names of
 * the audit data standards. It publishes further days on request, and can be told to fail, to stall, or to send rubbish.
 */
export type FeedMode = 'ok' | 'fail' | 'stall' | 'rubbish';
export type FeedLine = { [field: string]: string };

export interface LedgerFeed {
  url: string;
  mode: FeedMode;
  /** How often it was asked for a page. */
  asked: number;
  /** After so many pages it fails once; null: never. */
  failAfter: number | null;
  publish(days: number): number;
  close(): Promise<void>;
}

const PAGE_LINES = 50;
const STALL_MS = 30_000;

/** @param linesOf the lines of the n-th day, from 1; none when the world has ended */
export async function startLedgerFeed(linesOf: (day: number) => FeedLine[], port = 0): Promise<LedgerFeed> {
  let published = 0;
  const lines: FeedLine[] = [];
  const server: Server = createServer((request, response) => {
    const url = new URL(request.url ?? '/', 'http://127.0.0.1');
    const json = (status: number, value: unknown): void => void response.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(value));
    if (request.method === 'POST' && url.pathname === '/publish') return json(200, { published: feed.publish(Number(url.searchParams.get('days') ?? 1)) });
    if (request.method === 'POST' && url.pathname === '/mode') {
      const mode = url.searchParams.get('mode');
      if (mode !== 'ok' && mode !== 'fail' && mode !== 'stall' && mode !== 'rubbish') return json(422, { title: 'A mode is ok, fail, stall or rubbish' });
      feed.mode = mode;
      return json(200, { mode });
    }
    if (url.pathname === '/') return void response.writeHead(200, { 'content-type': 'text/html; charset=utf-8' }).end(page(published, lines.length, feed.mode));
    if (url.pathname !== '/entries') return json(404, { title: 'There is nothing here' });
    feed.asked += 1;
    if (feed.failAfter !== null && feed.asked > feed.failAfter) {
      feed.failAfter = null;
      return void request.socket.destroy();
    }
    if (feed.mode === 'fail') return json(503, { title: 'The ledger is closed for maintenance' });
    if (feed.mode === 'rubbish') return void response.writeHead(200).end('<html>Please sign in to the ledger</html>');
    const give = (): void => {
      const from = Number(url.searchParams.get('after') ?? 0) || 0;
      const to = Math.min(lines.length, from + PAGE_LINES);
      json(200, { entries: lines.slice(from, to), next: String(Math.max(from, to)), more: to < lines.length });
    };
    if (feed.mode === 'stall') setTimeout(give, STALL_MS).unref();
    else give();
  });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', resolve);
  });
  const feed: LedgerFeed = {
    url: `http://127.0.0.1:${(server.address() as AddressInfo).port}/entries`,
    mode: 'ok',
    asked: 0,
    failAfter: null,
    publish(days) {
      for (let i = 0; i < days; i++) {
        published += 1;
        lines.push(...linesOf(published));
      }
      return published;
    },
    close: () =>
      new Promise((resolve) => {
        server.closeAllConnections();
        server.close(() => resolve());
      }),
  };
  return feed;
}

const page = (days: number, lines: number, mode: FeedMode): string => `<!doctype html><meta charset="utf-8"><title>Ledger feed stand-in</title>
<body style="font:16px sans-serif;max-width:40em;margin:3em auto"><h1>Ledger feed stand-in</h1>
<p>${days} days published, ${lines} lines. Mode: <b>${mode}</b>.</p>
<form method="post" action="/publish?days=1"><button>Publish the next day</button></form>
${['ok', 'fail', 'stall', 'rubbish'].map((m) => `<form method="post" action="/mode?mode=${m}"><button>Mode ${m}</button></form>`).join('\n')}</body>`;
