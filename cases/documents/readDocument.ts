import { createReadStream } from 'node:fs';
import { open, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { notFound } from '@/contracts/problem';
import { exponentOf, formatAmount } from '@/core/money';
import { isSettling } from '@/core/openItems';
import {
  attachmentByDigest,
  attachmentsOf,
  type DocumentRow,
  documentsNumbered,
  linksOf,
  sharingFile,
} from '@/store/documents';
import { type Context, known } from '../asking/context';
import { maySee, requireWhole, type Viewer } from '../asking/viewer';

/** A chain longer than this is shown up to here. */
const CHAIN_MAX = 200;

/**
 * A document with its chain in both directions, and its open balance after each event: original less what was applied
 * so far, in date order (method.md §8).
 */
export async function readDocument(
  ctx: Context,
  viewer: Viewer,
  number: string,
  params: { entity?: string | undefined },
) {
  requireWhole(viewer, 'Documents are');
  const { catalogue } = await known(ctx.read);
  const seen = [...catalogue.entities.values()].filter(
    (e) => maySee(viewer, e.code) && (params.entity === undefined || e.code === params.entity),
  );
  const [document] = await documentsNumbered(
    ctx.read,
    seen.map((e) => e.id),
    [number],
  );
  const entity = seen.find((e) => e.id === document?.entity);
  if (!document || !entity) throw notFound(`Document ${number}`);
  const chain = await chainOf(ctx, document);
  const attachments = await attachmentsOf(ctx.read, document.entity, number);
  const shared = await sharingFile(
    ctx.read,
    [document.entity],
    attachments.map((a) => a.digest),
  );
  const digits = exponentOf(document.currency);
  const inOrder = (links: typeof chain.links) =>
    [...links].sort((a, b) => (a.date === b.date ? (a.target < b.target ? -1 : 1) : a.date < b.date ? -1 : 1));
  /** Each link in date order, with what is left after it. */
  const walked = (links: typeof chain.links, other: 'source' | 'target') => {
    let left = document.amount;
    return inOrder(links).map((link) => {
      left -= link.applied;
      return {
        date: link.date,
        document: link[other],
        applied: formatAmount(link.applied, digits),
        open: formatAmount(left, digits),
      };
    });
  };
  const settled = chain.links.filter((l) => l.source === number);
  const settles = chain.links.filter((l) => l.target === number);
  const settling = isSettling(document.type);
  return {
    ...shown(document, entity.code),
    /** Whether it settles others, as a payment does, rather than being settled. */
    settling,
    account: document.account === null ? null : (entity.accountOf.get(document.account)?.code ?? null),
    open: formatAmount(document.amount - (settling ? settles : settled).reduce((sum, e) => sum + e.applied, 0), digits),
    /** What was applied to it, with what was open after each. */
    events: [
      {
        date: document.date,
        document: number,
        applied: formatAmount(0, digits),
        open: formatAmount(document.amount, digits),
      },
      ...walked(settled, 'target'),
    ],
    /** What it applied to others, with what was left after each. */
    settles: walked(settles, 'source'),
    chain: {
      documents: chain.documents.map((d) => shown(d, entity.code)),
      links: chain.links.map((l) => ({
        source: l.source,
        target: l.target,
        date: l.date,
        applied: formatAmount(l.applied, digits),
      })),
    },
    attachments: attachments.map((a) => ({
      ...a,
      /** Other documents to which the very same file is attached. */
      alsoOn: shared.flatMap((s) => (s.digest === a.digest && s.document !== number ? [s.document] : [])),
    })),
  };
}

const shown = (d: DocumentRow, entity: string) => ({
  number: d.number,
  entity,
  type: d.type,
  date: d.date,
  dueDate: d.due_date,
  currency: d.currency,
  counterparty: d.counterparty_code,
  counterpartyName: d.counterparty_name,
  amount: formatAmount(d.amount, exponentOf(d.currency)),
  description: d.description,
  load: d.load,
});

/**
 * The documents that one goes back to, and those that came of it: each way to its end, and never back again, since a
 * payment of many invoices would else lead to all of them.
 */
async function chainOf(ctx: Context, from: DocumentRow) {
  const numbers = new Set([from.number]);
  const links = new Map<string, Awaited<ReturnType<typeof linksOf>>[number]>();
  for (const [near, far] of [
    ['target', 'source'],
    ['source', 'target'],
  ] as const) {
    let frontier = [from.number];
    while (frontier.length > 0 && numbers.size < CHAIN_MAX) {
      const reached = new Set(frontier);
      frontier = [];
      for (const link of await linksOf(ctx.read, from.entity, [...reached])) {
        if (!reached.has(link[near])) continue;
        links.set(`${link.source}|${link.target}|${link.date}|${link.applied}`, link);
        if (numbers.has(link[far])) continue;
        numbers.add(link[far]);
        frontier.push(link[far]);
      }
    }
  }
  const documents = await documentsNumbered(ctx.read, [from.entity], [...numbers]);
  return { documents: documents.sort((a, b) => (a.date < b.date ? -1 : 1)), links: [...links.values()] };
}

/** What a file begins with, whatever its name says: only these are ever shown in place. */
const SHOWN: readonly [mediaType: string, begins: readonly number[]][] = [
  ['application/pdf', [0x25, 0x50, 0x44, 0x46, 0x2d]],
  ['image/png', [0x89, 0x50, 0x4e, 0x47]],
  ['image/jpeg', [0xff, 0xd8, 0xff]],
];

/** The file attached to a document that the viewer may see, with what it is where it can be shown in place. */
export async function readAttachment(
  ctx: Context,
  viewer: Viewer,
  digest: string,
): Promise<{ stream: Readable; name: string; mediaType: string | null }> {
  requireWhole(viewer, 'Documents are');
  const { catalogue } = await known(ctx.read);
  const entities = [...catalogue.entities.values()].filter((e) => maySee(viewer, e.code)).map((e) => e.id);
  const found = /^[0-9a-f]{64}$/.test(digest) ? await attachmentByDigest(ctx.read, entities, digest) : undefined;
  const path = join(ctx.files, digest);
  if (!found || !(await stat(path).catch(() => null))) throw notFound('That attachment');
  const file = await open(path);
  const { buffer } = await file.read(Buffer.alloc(8), 0, 8, 0).finally(() => file.close());
  const mediaType = SHOWN.find(([, begins]) => begins.every((byte, i) => buffer[i] === byte))?.[0] ?? null;
  return { stream: createReadStream(path), name: found.name, mediaType };
}
