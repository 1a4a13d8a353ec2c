import { join } from 'node:path';
import type { z } from 'zod';
import { forbidden } from '@/contracts/problem';
import type { recordShape } from '@/contracts/questions';
import { type Written, writeCsv } from '@/exchange/writers';
import type { Db } from '@/store/db';
import { ANCHORS_FILE, listRecord, type RecordRow, readAnchors, readHead, walkRecord } from '@/store/record';
import type { Context } from '../asking/context';
import { headName, onRecord } from '../asking/onRecord';
import { isAtLeast, seesWhole, type Viewer } from '../asking/viewer';
import { aboutInRecord } from './aboutInRecord';

type Asked = z.infer<z.ZodObject<typeof recordShape>>;

/** Entries are read so many at a time, and looked through so far back for one question. */
const PAGE_ROWS = 1_000;
const LOOKED_THROUGH_MAX = 50_000;

/** The record names what everybody did in all books: it is for owners, and for reviewers who see all of them. */
function mustSeeAll(viewer: Viewer): void {
  const reviews = isAtLeast(viewer, 'reviewer');
  if (!reviews || viewer.entities !== null || !seesWhole(viewer))
    throw forbidden('The record of who did what is for owners, and for reviewers of all books');
}

/** Who did what, newest first, with the head of the chain to be compared with what was kept elsewhere. */
export async function readRecord(ctx: Context, viewer: Viewer, asked: Asked) {
  mustSeeAll(viewer);
  const { rows, next } = await foundInRecord(ctx, asked);
  const head = await readHead(ctx.read);
  return {
    head,
    rows: rows.map((r) => ({
      number: r.id,
      at: r.at.toISOString(),
      person: r.person_name,
      act: r.act,
      subject: r.subject,
      detail: r.detail,
      previous: r.previous_hash,
      hash: r.hash,
    })),
    next,
  };
}

/** A page of what is asked for, and where the next begins: where this one ended, or where it had been looked through enough. */
async function foundInRecord(
  ctx: Context,
  { about, limit, after, ...asked }: Asked,
): Promise<{ rows: RecordRow[]; next: string | null }> {
  let before = after === undefined ? null : Number(after);
  if (about === undefined) {
    const rows = await listRecord(ctx.read, { ...asked, limit, before });
    return { rows, next: rows.length === limit ? String(rows.at(-1)?.id) : null };
  }
  const isAbout = await aboutInRecord(ctx, about);
  const found: RecordRow[] = [];
  for (let looked = 0; looked < LOOKED_THROUGH_MAX; looked += PAGE_ROWS) {
    const page = await listRecord(ctx.read, { ...asked, limit: PAGE_ROWS, before });
    const are = await isAbout(page);
    for (const [i, row] of page.entries()) {
      if (!are[i]) continue;
      found.push(row);
      if (found.length === limit) return { rows: found, next: String(row.id) };
    }
    if (page.length < PAGE_ROWS) return { rows: found, next: null };
    before = page.at(-1)?.id ?? null;
  }
  return { rows: found, next: String(before) };
}

const COLUMNS = ['number', 'at', 'person', 'cameFrom', 'act', 'subject', 'detail', 'previous', 'hash'];

/** All that is asked of the record as a table, newest first. That it was taken out is on record itself. */
export async function recordTable(ctx: Context, viewer: Viewer, asked: Asked) {
  mustSeeAll(viewer);
  const { limit: _, after: __, ...filter } = asked;
  const head = await onRecord(ctx, viewer, (_trx, record) =>
    record('exported', 'record', { what: 'record', ...filter }),
  );
  const records = async function* (): AsyncGenerator<Written> {
    for (let after = String(head.number + 1); ; ) {
      const { rows, next } = await foundInRecord(ctx, { ...filter, limit: PAGE_ROWS, after });
      for (const r of rows)
        yield {
          ...{ number: String(r.id), at: r.at.toISOString(), person: r.person_name },
          ...{ cameFrom: String(r.detail.cameFrom ?? ''), act: r.act, subject: r.subject },
          ...{ detail: JSON.stringify(r.detail), previous: r.previous_hash, hash: r.hash },
        };
      if (next === null) return;
      after = next;
    }
  };
  return {
    stream: writeCsv({
      columns: COLUMNS,
      kind: { required: COLUMNS, known: COLUMNS, prefixes: [], amounts: [], dates: [] },
      records: records(),
    }),
    fileName: `${headName(head)}.csv`,
    head,
  };
}

/** Whether the chain holds, from its first entry up to what was anchored outside. */
export async function checkRecord(ctx: Context, viewer: Viewer) {
  mustSeeAll(viewer);
  const { number, hash, brokenAt, anchors, unanchored } = await walkAnchored(ctx, ctx.read);
  return {
    ok: brokenAt === null && !unanchored,
    entries: number,
    hash,
    anchors,
    ...(brokenAt === null ? {} : { brokenAt }),
  };
}

/** Walks the chain from its first entry, and holds it against what was anchored in the state folder. */
export async function walkAnchored(ctx: Context, db: Db) {
  const anchored = await readAnchors(join(ctx.home, ANCHORS_FILE));
  const walked = await walkRecord(db, anchored);
  // Without what was written down outside, a record that was cut or emptied looks whole.
  return { ...walked, anchors: anchored.size, unanchored: walked.number > 0 && anchored.size === 0 };
}
