import { join } from 'node:path';
import type { z } from 'zod';
import { forbidden } from '@/contracts/problem';
import type { recordShape } from '@/contracts/questions';
import type { Db } from '@/store/db';
import { ANCHORS_FILE, listRecord, readAnchors, readHead, walkRecord } from '@/store/record';
import type { Context } from '../asking/context';
import { seesWhole, type Viewer } from '../asking/viewer';

type ResolvedFigure = z.infer<z.ZodObject<typeof recordShape>>;

/** The record names what was done in all books: it is for whoever sees all of them. */
function mustSeeAll(viewer: Viewer): void {
  if (viewer.role === 'reader' || viewer.entities !== null || !seesWhole(viewer))
    throw forbidden('The record of who did what is for those who work on all books');
}

/** Who did what, newest first, with the head of the chain to be compared with what was kept elsewhere. */
export async function readRecord(ctx: Context, viewer: Viewer, asked: ResolvedFigure) {
  mustSeeAll(viewer);
  const before = asked.after === undefined ? null : Number(asked.after);
  const rows = await listRecord(ctx.read, { ...asked, before });
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
    next: rows.length === asked.limit ? String(rows.at(-1)?.id) : null,
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
