import type { z } from 'zod';
import type { newFrozenSchema } from '@/contracts/bodies/all';
import { notFound, ProblemError } from '@/contracts/problem';
import { subjectText } from '@/contracts/subject';
import { type Leaf, type LeafColumn, LeafDigest, type LeafRow, loadOf, onFile, plainCells } from '@/core/leaf';
import { type FrozenRow, insertFrozen, listFrozen, readFrozen } from '@/store/leaving';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { spokenCount } from '../asking/spokenNumbers';
import { maySeeBooks, require, seesWhole, type Viewer } from '../asking/viewer';
import { unguessable } from './exports';
import { isOfFigure, leafOf, sheetPath } from './leafOf';

/** A copy is read as a page: more rows than these are a file. */
const ROWS_MAX = 20_000;
const LISTED = 200;

interface FrozenLeaf {
  columns: Pick<LeafColumn, 'key' | 'label' | 'is' | 'digits'>[];
  facts: [string, string][];
  rows: { key: string; depth: number; look: LeafRow['look']; cells: Record<string, string | null> }[];
  total: Record<string, string | null> | null;
  proofs: string[];
}

/** Freezes a sheet as it is now: what it says stays as it is, whatever is loaded later. */
export async function freeze(ctx: Context, viewer: Viewer, { path, page, title }: z.infer<typeof newFrozenSchema>) {
  require(viewer, 'preparer', 'freeze copies');
  const { leaf, content, digest } = await read(ctx, viewer, path);
  const id = unguessable();
  const load = loadOf(leaf);
  await onRecord(ctx, viewer, async (trx, record) => {
    await insertFrozen(trx, {
      ...{ id, person: viewer.id, person_name: viewer.name, title: title ?? leaf.title, path },
      ...{
        page: page ?? leaf.address ?? '/',
        sentence: leaf.sentence,
        address: addressOf(leaf),
        load,
        digest,
        content,
      },
    });
    await record('froze a sheet', subjectText({ is: 'figure', address: addressOf(leaf) }), {
      frozen: id,
      digest,
      load,
    });
  });
  return { id, address: `/frozen/${id}`, digest };
}

/** Copies that the viewer may see, newest first. */
export async function showFrozenList(ctx: Context, viewer: Viewer) {
  const rows = await listFrozen(ctx.read, LISTED);
  const seen = await Promise.all(rows.map((row) => maySee(ctx, viewer, row)));
  return {
    rows: rows
      .filter((_, i) => seen[i])
      .map(({ id, title, sentence, person_name, load, digest, at }) => ({
        ...{ id, title, sentence, by: person_name, load, digest, at: at.toISOString() },
      })),
  };
}

/** A copy as it was frozen, and what has moved since on the newest load. */
export async function showFrozen(ctx: Context, viewer: Viewer, id: string) {
  const row = await readFrozen(ctx.read, id);
  if (!row || !(await maySee(ctx, viewer, row))) throw notFound('This frozen copy');
  const content = row.content as FrozenLeaf;
  return {
    ...{ id, title: row.title, sentence: row.sentence, path: row.path, page: row.page },
    ...{ by: row.person_name, at: row.at.toISOString(), load: row.load, digest: row.digest },
    ...content,
    since: await since(ctx, viewer, row, content),
  };
}

const MOVED_MAX = 200;

/** What the same sheet says now: which cells say something else, and which rows came or went. */
async function since(ctx: Context, viewer: Viewer, row: FrozenRow, was: FrozenLeaf) {
  const now = await read(ctx, viewer, row.path).catch((error: unknown) => {
    if (error instanceof ProblemError) return null; // what cannot be asked any more has not moved: it is gone
    throw error;
  });
  if (now === null) return null;
  const load = loadOf(now.leaf);
  const before = new Map(was.rows.map((r) => [r.key, r]));
  const after = new Map(now.content.rows.map((r) => [r.key, r]));
  const label = (cells: Record<string, string | null>): string =>
    [cells.code ?? cells.account, cells.name ?? cells.description].filter(Boolean).join(' ');
  const moved: { row: string; column: string; was: string | null; now: string | null }[] = [];
  for (const key of new Set([...before.keys(), ...after.keys()])) {
    const [a, b] = [before.get(key)?.cells, after.get(key)?.cells];
    for (const { key: column, label: head, is } of was.columns) {
      if (is === 'text' || is === 'date' || (a?.[column] ?? null) === (b?.[column] ?? null)) continue;
      moved.push({ row: label(a ?? b ?? {}), column: head, was: a?.[column] ?? null, now: b?.[column] ?? null });
    }
  }
  return { load, moved: moved.slice(0, MOVED_MAX), all: moved.length };
}

async function read(
  ctx: Context,
  viewer: Viewer,
  path: string,
): Promise<{ leaf: Leaf; content: FrozenLeaf; digest: string }> {
  const leaf = onFile(await leafOf(ctx, viewer, path));
  const digest = new LeafDigest(leaf);
  const rows: FrozenLeaf['rows'] = [];
  for await (const row of leaf.rows) {
    if (rows.length === ROWS_MAX)
      throw new ProblemError(422, `A frozen copy holds at most ${spokenCount(ROWS_MAX)} rows; take a file out instead`);
    digest.row(row.cells);
    rows.push({ key: row.key, depth: row.depth, look: row.look, cells: plainCells(leaf.columns, row.cells) });
  }
  return {
    leaf,
    digest: digest.end(leaf.total),
    content: {
      columns: leaf.columns.map(({ key, label, is, digits }) => ({ key, label, is, digits })),
      facts: leaf.facts.map(([name, says]) => [name, says]),
      ...{ rows, total: leaf.total && plainCells(leaf.columns, leaf.total.cells), proofs: [...leaf.proofs()] },
    },
  };
}

/** The question of a leaf without its load, in its one form. */
function addressOf({ address }: Pick<Leaf, 'address'>): string {
  const params = new URLSearchParams(address?.split('?')[1] ?? '');
  params.delete('load');
  return params.toString();
}

/**
 * A copy is for whoever may ask the same question whole: one who sees a part of it would be shown more than they may see.
 * Whoever sees all books may see every copy, also of what cannot be asked any more.
 */
async function maySee(
  ctx: Context,
  viewer: Viewer,
  row: Pick<FrozenRow, 'path' | 'address' | 'person'>,
): Promise<boolean> {
  if (seesWhole(viewer) && viewer.entities === null) return true;
  const { params } = sheetPath(row.path);
  const entities = params.getAll('entity');
  if (seesWhole(viewer) && entities.length > 0 && entities.every((entity) => maySeeBooks(viewer, entity))) return true;
  // The address of a list does not say who asked; of a figure it does.
  if (!isOfFigure(row.path)) return false;
  try {
    return addressOf(await leafOf(ctx, viewer, row.path)) === row.address;
  } catch (error) {
    if (error instanceof ProblemError) return false;
    throw error;
  }
}
