import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { notFound } from '@/contracts/problem';
import { exponentOf, formatAmount } from '@/core/money';
import { attachmentByDigest, attachmentsOf, type DocumentRow, documentsNumbered, linksOf } from '@/store/documents';
import { type Context, known } from './context';
import { maySee, requireWhole, type Viewer } from './viewer';

/** A chain longer than this is shown up to here. */
const CHAIN_MAX = 200;

/**
 * A document with its chain in both directions, and its open balance after each event: original less what was applied
 * so far, in date order (method.md §8).
 */
export async function readDocument(ctx: Context, viewer: Viewer, number: string, params: { entity?: string | undefined }) {
  requireWhole(viewer, 'Documents are');
  const { catalogue } = await known(ctx.read);
  const seen = [...catalogue.entities.values()].filter((e) => maySee(viewer, e.code) && (params.entity === undefined || e.code === params.entity));
  const [document] = await documentsNumbered(
    ctx.read,
    seen.map((e) => e.id),
    [number],
  );
  const entity = seen.find((e) => e.id === document?.entity);
  if (!document || !entity) throw notFound(`Document ${number}`);
  const chain = await chainOf(ctx, document);
  const digits = exponentOf(document.currency);
  const events = chain.links.filter((l) => l.source === number).sort((a, b) => (a.date === b.date ? (a.target < b.target ? -1 : 1) : a.date < b.date ? -1 : 1));
  let open = document.amount;
  return {
    ...shown(document, entity.code),
    open: formatAmount(document.amount - events.reduce((sum, e) => sum + e.applied, 0), digits),
    events: [
      { date: document.date, by: number, applied: formatAmount(0, digits), open: formatAmount(open, digits) },
      ...events.map((e) => {
        open -= e.applied;
        return { date: e.date, by: e.target, applied: formatAmount(e.applied, digits), open: formatAmount(open, digits) };
      }),
    ],
    chain: {
      documents: chain.documents.map((d) => shown(d, entity.code)),
      links: chain.links.map((l) => ({ source: l.source, target: l.target, date: l.date, applied: formatAmount(l.applied, digits) })),
    },
    attachments: (await attachmentsOf(ctx.read, document.entity, number)).map((a) => ({ name: a.name, digest: a.digest, bytes: a.bytes })),
  };
}

const shown = (d: DocumentRow, entity: string) => ({
  ...{ number: d.number, entity, type: d.type, date: d.date, dueDate: d.due_date, currency: d.currency, counterparty: d.counterparty_code },
  ...{ counterpartyName: d.counterparty_name, amount: formatAmount(d.amount, exponentOf(d.currency)), description: d.description, load: d.load },
});

async function chainOf(ctx: Context, from: DocumentRow) {
  const numbers = new Set([from.number]);
  const links = new Map<string, Awaited<ReturnType<typeof linksOf>>[number]>();
  let frontier = [from.number];
  while (frontier.length > 0 && numbers.size < CHAIN_MAX) {
    const found = await linksOf(ctx.read, from.entity, frontier);
    frontier = [];
    for (const link of found) {
      links.set(`${link.source}|${link.target}|${link.date}|${link.applied}`, link);
      for (const number of [link.source, link.target]) {
        if (numbers.has(number)) continue;
        numbers.add(number);
        frontier.push(number);
      }
    }
  }
  const documents = await documentsNumbered(ctx.read, [from.entity], [...numbers]);
  return { documents: documents.sort((a, b) => (a.date < b.date ? -1 : 1)), links: [...links.values()] };
}

/** The file attached to a document that the viewer may see. */
export async function readAttachment(ctx: Context, viewer: Viewer, digest: string): Promise<{ stream: Readable; name: string }> {
  requireWhole(viewer, 'Documents are');
  const { catalogue } = await known(ctx.read);
  const entities = [...catalogue.entities.values()].filter((e) => maySee(viewer, e.code)).map((e) => e.id);
  const found = /^[0-9a-f]{64}$/.test(digest) ? await attachmentByDigest(ctx.read, entities, digest) : undefined;
  const path = join(ctx.files, digest);
  if (!found || !(await stat(path).catch(() => null))) throw notFound('That attachment');
  return { stream: createReadStream(path), name: found.name };
}
