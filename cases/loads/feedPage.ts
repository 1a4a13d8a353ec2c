import { lookup } from 'node:dns/promises';
import { type IncomingMessage, request as requestHttp } from 'node:http';
import { request as requestHttps } from 'node:https';
import type { LookupFunction } from 'node:net';
import ipaddr from 'ipaddr.js';
import { z } from 'zod';

/** A page of a source ledger's feed: lines by the field names of the audit data standards, and where to go on. */
const pageSchema = z.object({
  entries: z.array(z.record(z.string(), z.union([z.string(), z.number(), z.null()]))).max(10_000),
  next: z.string().min(1).max(500),
  more: z.boolean(),
});
export type FeedPage = z.infer<typeof pageSchema>;

/** A source that does not answer within this time has failed; what came before is kept. */
const ANSWER_MS = 10_000;
const PAGE_BYTES_MAX = 32 * 1024 ** 2;

/** What is wrong with a source, in words of ours: nothing that it sent is in them. */
export class FeedFault extends Error {}

/** Addresses of the machine itself and of the networks around it, and all others that are nobody's on the internet. */
export const isOutside = (address: string): boolean =>
  ipaddr.isValid(address) && ipaddr.process(address).range() === 'unicast';

/**
 * Where a host is: resolved once, and refused if any of it is inside, so that no name leads to what only this machine
 * can reach. @throws FeedFault
 */
export async function placesOf(url: URL, privateAllowed: boolean): Promise<{ address: string; family: number }[]> {
  const host = url.hostname.replace(/^\[|\]$/g, '');
  const found = ipaddr.isValid(host)
    ? [{ address: host, family: ipaddr.parse(host).kind() === 'ipv6' ? 6 : 4 }]
    : await lookup(host, { all: true }).catch(() => {
        throw new FeedFault('the name of the source is not known; check its address');
      });
  if (!privateAllowed && found.some(({ address }) => !isOutside(address))) {
    throw new FeedFault(
      'the address lies inside this machine or a private network, which no owner has allowed for this source',
    );
  }
  return found;
}

/** Asks for the page after a cursor. @throws FeedFault */
export async function readFeedPage(
  from: string,
  cursor: string | null,
  privateAllowed: boolean,
): Promise<FeedPage & { bytes: number }> {
  const url = new URL(from);
  if (cursor !== null) url.searchParams.set('after', cursor);
  const places = await placesOf(url, privateAllowed);
  const { text, bytes } = await textOf(url, places);
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    throw new FeedFault('the source sent something that is no JSON');
  }
  const page = pageSchema.safeParse(raw);
  if (!page.success)
    throw new FeedFault('the source sent a page that is not as agreed: it needs entries, next and more');
  return { ...page.data, bytes };
}

/** The body of an answer, counted while it comes. Nothing leads elsewhere: a redirect is a fault. */
function textOf(url: URL, places: { address: string; family: number }[]): Promise<{ text: string; bytes: number }> {
  const pinned: LookupFunction = (_host, options, done) => {
    const [first] = places;
    if (options.all) done(null, places);
    else done(null, first?.address ?? '', first?.family);
  };
  const request = url.protocol === 'https:' ? requestHttps : requestHttp;
  return new Promise((resolve, reject) => {
    const asked = request(
      url,
      { lookup: pinned, headers: { accept: 'application/json' }, agent: false },
      (answer: IncomingMessage) => {
        const status = answer.statusCode ?? 0;
        if (status >= 300 && status < 400)
          return fail(new FeedFault('the source leads elsewhere; give the address itself'));
        if (status !== 200) return fail(new FeedFault(`the source answered ${status}`));
        const chunks: Buffer[] = [];
        let bytes = 0;
        answer.on('data', (chunk: Buffer) => {
          bytes += chunk.length;
          if (bytes > PAGE_BYTES_MAX) fail(new FeedFault('the source sent a page that is far too large'));
          else chunks.push(chunk);
        });
        answer.on('error', () => fail(new FeedFault('the source broke off in the middle of a page')));
        answer.on('aborted', () => fail(new FeedFault('the source broke off in the middle of a page')));
        answer.on('end', () => {
          clearTimeout(late);
          resolve({ text: Buffer.concat(chunks).toString('utf8'), bytes });
        });
      },
    );
    const late = setTimeout(
      () => fail(new FeedFault(`the source did not answer within ${ANSWER_MS / 1000} seconds`)),
      ANSWER_MS,
    );
    const fail = (error: Error): void => {
      clearTimeout(late);
      reject(error);
      asked.destroy();
    };
    asked.on('error', (error: NodeJS.ErrnoException) =>
      fail(new FeedFault(`the source could not be reached${error.code ? ` (${error.code})` : ''}`)),
    );
    asked.end();
  });
}
