import { createServer, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';

/**
 * A small stand-in for a source ledger: a local service that gives journal lines page by page, by the field names of
 * the audit data standards. It publishes further days on request, and can be told to fail, to stall, or to send rubbish.
 */
const MODES = ['ok', 'fail', 'stall', 'rubbish', 'stuck', 'hollow', 'flood', 'elsewhere'] as const;
/** What it does: `stuck` says that there is more and stays where it is, `hollow` goes on for ever with nothing, `flood` sends a page without end, `elsewhere` leads to another address. */
export type FeedMode = (typeof MODES)[number];
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

/**
 * @param linesOf the lines of the n-th day, from 1; none when the world has ended
 * @param entryOf an entry of before the first day, for whoever comes to look at it
 */
export async function startLedgerFeed(
  linesOf: (day: number) => FeedLine[],
  port = 0,
  entryOf: (number: string) => FeedLine[] = () => [],
): Promise<LedgerFeed> {
  let published = 0;
  const lines: FeedLine[] = [];
  const server: Server = createServer((request, response) => {
    const url = new URL(request.url ?? '/', 'http://127.0.0.1');
    const json = (status: number, value: unknown): void =>
      void response.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(value));
    if (request.method === 'POST' && url.pathname === '/publish')
      return json(200, { published: feed.publish(Number(url.searchParams.get('days') ?? 1)) });
    if (request.method === 'POST' && url.pathname === '/mode') {
      const mode = MODES.find((m) => m === url.searchParams.get('mode'));
      if (!mode) return json(422, { title: `A mode is one of ${MODES.join(', ')}` });
      feed.mode = mode;
      return json(200, { mode });
    }
    if (url.pathname === '/')
      return void response
        .writeHead(200, { 'content-type': 'text/html; charset=utf-8' })
        .end(page(published, lines.length, feed.mode));
    const [, number] = /^\/entries\/(.+)$/.exec(url.pathname) ?? [];
    if (number !== undefined) {
      const [sought = ''] = decoded(number);
      const mine = lines.filter((line) => line.Journal_ID === sought);
      const found = mine.length > 0 ? mine : entryOf(sought);
      return void response
        .writeHead(found.length > 0 ? 200 : 404, { 'content-type': 'text/html; charset=utf-8' })
        .end(entryPage(sought, found));
    }
    if (url.pathname !== '/entries') return json(404, { title: 'There is nothing here' });
    feed.asked += 1;
    if (feed.failAfter !== null && feed.asked > feed.failAfter) {
      feed.failAfter = null;
      return void request.socket.destroy();
    }
    if (feed.mode === 'fail') return json(503, { title: 'The ledger is closed for maintenance' });
    if (feed.mode === 'rubbish') return void response.writeHead(200).end('<html>Please sign in to the ledger</html>');
    if (feed.mode === 'elsewhere')
      return void response.writeHead(302, { location: 'http://169.254.169.254/secrets' }).end();
    if (feed.mode === 'stuck')
      return json(200, { entries: [], next: url.searchParams.get('after') ?? '0', more: true });
    if (feed.mode === 'hollow') return json(200, { entries: [], next: String(feed.asked), more: true });
    if (feed.mode === 'flood') return flood(response);
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

/** A page with no length and no end. */
function flood(response: ServerResponse): void {
  response.writeHead(200, { 'content-type': 'application/json' });
  const chunk = Buffer.alloc(256 * 1024, ' ');
  const more = (): void => {
    while (!response.destroyed && response.write(chunk));
    if (!response.destroyed) response.once('drain', more);
  };
  more();
}

const decoded = (text: string): string[] => {
  try {
    return [decodeURIComponent(text)];
  } catch {
    return [];
  }
};

const escaped = (text = ''): string => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;');

/** An entry as the source ledger shows it to whoever comes for it. */
const entryPage = (
  number: string,
  lines: FeedLine[],
): string => `<!doctype html><meta charset="utf-8"><title>${escaped(number)}</title>
<body style="font:16px sans-serif;max-width:50em;margin:3em auto"><h1>${lines.length > 0 ? `Entry ${escaped(number)}` : 'No such entry'}</h1>
<table cellpadding="6">${lines
  .map(
    (l) =>
      `<tr>${[l.Effective_Date, l.GL_Account_Number, l.JE_Line_Description, l.Amount_Credit_Debit_Indicator, l.Amount].map((c) => `<td>${escaped(c)}</td>`).join('')}</tr>`,
  )
  .join('\n')}</table></body>`;

const page = (
  days: number,
  lines: number,
  mode: FeedMode,
): string => `<!doctype html><meta charset="utf-8"><title>Ledger feed stand-in</title>
<body style="font:16px sans-serif;max-width:40em;margin:3em auto"><h1>Ledger feed stand-in</h1>
<p>${days} days published, ${lines} lines. Mode: <b>${mode}</b>.</p>
<form method="post" action="/publish?days=1"><button>Publish the next day</button></form>
${MODES.map((m) => `<form method="post" action="/mode?mode=${m}"><button>Mode ${m}</button></form>`).join('\n')}</body>`;
