import { createReadStream } from 'node:fs';
import { open } from 'node:fs/promises';
import type { Readable } from 'node:stream';
import { notFound } from '@/contracts/problem';
import { eventsOf, isPromising, progressOf, sumsOf } from '@/core/chain';
import { add, exponentOf, formatAmount } from '@/core/money';
import { isSettling } from '@/core/openItems';
import { exactly } from '@/core/values';
import type { CatalogueEntity } from '@/store/catalogue';
import {
  attachmentByDigest,
  attachmentsOf,
  type DocumentRow,
  documentLines,
  documentsNumbered,
  linksOf,
  sharingFile,
} from '@/store/documents';
import { taxSums } from '@/store/taxes';
import { type Context, known as readNames } from '../asking/context';
import { resolveFigure } from '../asking/resolveFigure';
import { maySee, requireWhole, type Viewer } from '../asking/viewer';
import { figureTotal } from '../balances/accountBalances';
import { readEvidenceFile } from '../evidence/files';
import { documentHead } from './documentHead';

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
  const { catalogue } = await readNames(ctx.read);
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
  const known = new Map(chain.documents.map((d) => [d.number, d]));
  const events = eventsOf(document, chain.links, known);
  const settles = chain.links.filter((l) => l.target === number);
  const settling = isSettling(document.type);
  let left = document.amount;
  const applied = [...settles]
    .sort((x, y) => (x.date === y.date ? (x.source < y.source ? -1 : 1) : x.date < y.date ? -1 : 1))
    .map((link) => {
      left -= link.applied;
      return {
        date: link.date,
        document: link.source,
        applied: formatAmount(link.applied, digits),
        open: formatAmount(left, digits),
      };
    });
  const { open, value, state } = progressOf(document, {
    ...sumsOf(events),
    settles: settles.reduce((all, link) => add(all, link.applied), 0),
  });
  const booked = await bookedAs(ctx, viewer, entity, number);
  return {
    ...shown(document, entity.code),
    /** How far it is, in words of its kind; empty where nothing is to become of it. */
    state,
    /** What it is worth with its change orders; null where nothing changed it. */
    value: events.some((e) => e.changes) ? formatAmount(value, digits) : null,
    promising: isPromising(document.type),
    /** Whether it settles others, as a payment does, rather than being settled. */
    settling,
    account: document.account === null ? null : (entity.accountOf.get(document.account)?.code ?? null),
    open: formatAmount(open, digits),
    /** What was applied to it, with what was open after each. */
    events: [
      {
        date: document.date,
        document: number,
        applied: formatAmount(0, digits),
        open: formatAmount(document.amount, digits),
      },
      ...events.map((e) => ({
        date: e.date,
        document: e.document,
        applied: formatAmount(0 - e.change, digits),
        open: formatAmount(e.open, digits),
        ...(e.changes ? { changes: true as const } : {}),
      })),
    ],
    /** What it applied to others, with what was left after each. */
    settles: applied,
    /** Its lines by tax code, as they were booked; amounts of the books. */
    taxes: booked.taxes,
    booked: booked.lines,
    /** What it is made of, as it was written, and whether that comes to its amount; null where nothing of it came. */
    lines: await writtenLines(ctx, document),
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

/** How many lines bear a document's number, and what those with a tax code come to by it. */
async function bookedAs(ctx: Context, viewer: Viewer, { code, currency }: CatalogueEntity, number: string) {
  const asked = await resolveFigure(ctx, viewer, {
    ...{ entity: [code], dims: {}, window: 'everything', status: 'all', document: [exactly(number)], heavy: 'run' },
  });
  const { db, question } = await asked.ask(ctx, []);
  const digits = exponentOf(currency);
  const [{ count }, taxes] = await Promise.all([figureTotal(ctx, asked), taxSums(db, question, digits)]);
  return {
    lines: count,
    taxes: taxes.map((t) => ({ code: t.code, base: formatAmount(t.net, digits), tax: formatAmount(t.tax, digits) })),
  };
}

async function writtenLines(ctx: Context, document: DocumentRow) {
  const lines = await documentLines(ctx.read, document.entity, document.number);
  if (lines.length === 0) return null;
  const digits = exponentOf(document.currency);
  const net = lines.reduce((all, line) => add(all, line.amount), 0);
  const tax = lines.reduce((all, line) => add(all, line.tax_amount ?? 0), 0);
  // Orders and contracts are often written without the tax that their invoices have.
  const off = add(document.amount, 0 - net) === 0 ? 0 : add(add(net, tax), 0 - document.amount);
  return {
    rows: lines.map((line) => ({
      ...{ line: line.line_no, item: line.item, description: line.description, quantity: line.quantity },
      ...{ unit: line.unit, unitPrice: line.unit_price, amount: formatAmount(line.amount, digits) },
      ...{ taxCode: line.tax_code, account: line.account },
      tax: line.tax_amount === null ? null : formatAmount(line.tax_amount, digits),
    })),
    net: formatAmount(net, digits),
    tax: formatAmount(tax, digits),
    tie: { ok: off === 0, offBy: formatAmount(off, digits) },
  };
}

const shown = (d: DocumentRow, entity: string) => ({ ...documentHead(d), entity, load: d.load });

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
  const evidence = await readEvidenceFile(ctx, viewer, digest);
  if (evidence) return evidence;
  requireWhole(viewer, 'Documents are');
  const { catalogue } = await readNames(ctx.read);
  const entities = [...catalogue.entities.values()].filter((e) => maySee(viewer, e.code)).map((e) => e.id);
  const found = /^[0-9a-f]{64}$/.test(digest) ? await attachmentByDigest(ctx.read, entities, digest) : undefined;
  const path = found ? await ctx.files.pathOf(digest) : null;
  if (!found || path === null) throw notFound('That attachment');
  const file = await open(path);
  const { buffer } = await file.read(Buffer.alloc(8), 0, 8, 0).finally(() => file.close());
  const mediaType = SHOWN.find(([, begins]) => begins.every((byte, i) => buffer[i] === byte))?.[0] ?? null;
  return { stream: createReadStream(path), name: found.name, mediaType };
}
