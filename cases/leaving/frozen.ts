import type { z } from 'zod';
import type { newFrozenSchema } from '@/contracts/bodies/all';
import { panelShape } from '@/contracts/leaving';
import { notFound, ProblemError } from '@/contracts/problem';
import { readQuery } from '@/contracts/scope';
import { subjectText } from '@/contracts/subject';
import { sha256Text } from '@/core/digest';
import { type Leaf, type LeafColumn, LeafDigest, type LeafRow, loadOf, onFile, plainCells } from '@/core/leaf';
import { type FrozenRow, insertFrozen, listFrozen, readFrozen } from '@/store/leaving';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { spokenCount } from '../asking/spokenNumbers';
import { maySeeBooks, require, seesWhole, type Viewer } from '../asking/viewer';
import { unguessable } from './exports';
import { isOfFigure, leafOf, sheetPath } from './leafOf';
import { overviewLeaves } from './overviews';

/** A copy is read as a page: more rows than these are a file. */
const ROWS_MAX = 20_000;
const LISTED = 200;

interface FrozenLeaf {
  title: string;
  sentence: string;
  columns: Pick<LeafColumn, 'key' | 'label' | 'is' | 'digits'>[];
  facts: [string, string][];
  rows: { key: string; depth: number; look: LeafRow['look']; cells: Record<string, string | null> }[];
  total: Record<string, string | null> | null;
  proofs: string[];
}

/** What was frozen: a sheet, or those of a page of panels. Copies of before hold one sheet without its name. */
type Content = { sheets: FrozenLeaf[] } | Omit<FrozenLeaf, 'title' | 'sentence'>;

const sheetsOf = ({ content, title, sentence }: Pick<FrozenRow, 'content' | 'title' | 'sentence'>): FrozenLeaf[] => {
  const held = content as Content;
  return 'sheets' in held ? held.sheets : [{ title, sentence, ...held }];
};

/** Freezes a sheet, or a page of panels, as it is now: what it says stays as it is, whatever is loaded later. */
export async function freeze(ctx: Context, viewer: Viewer, { path, page, title }: z.infer<typeof newFrozenSchema>) {
  require(viewer, 'preparer', 'freeze copies');
  const { name, leaves, sheets, digest } = await read(ctx, viewer, path);
  const [first] = leaves as [Leaf];
  const id = unguessable();
  const load = loadOf(first);
  const address = addressesOf(leaves);
  await onRecord(ctx, viewer, async (trx, record) => {
    await insertFrozen(trx, {
      ...{ id, person: viewer.id, person_name: viewer.name, title: title ?? name, path },
      ...{ page: page ?? first.address ?? '/', sentence: first.sentence, address, load, digest, content: { sheets } },
    });
    await record('froze a sheet', subjectText({ is: 'figure', address: addressOf(first) }), {
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
  const sheets = sheetsOf(row);
  return {
    ...{ id, title: row.title, sentence: row.sentence, path: row.path, page: row.page },
    ...{ by: row.person_name, at: row.at.toISOString(), load: row.load, digest: row.digest },
    sheets,
    since: await since(ctx, viewer, row, sheets),
  };
}

const MOVED_MAX = 200;

/** What the same sheets say now: which cells say something else, and which rows came or went. */
async function since(ctx: Context, viewer: Viewer, row: FrozenRow, was: readonly FrozenLeaf[]) {
  const now = await read(ctx, viewer, row.path).catch((error: unknown) => {
    if (error instanceof ProblemError) return null; // what cannot be asked any more has not moved: it is gone
    throw error;
  });
  const [leaf] = now?.leaves ?? [];
  if (now === null || !leaf) return null;
  const moved = was.flatMap((sheet, i) => movedIn(sheet, now.sheets[i], was.length > 1 ? `${sheet.title}: ` : ''));
  return { load: loadOf(leaf), moved: moved.slice(0, MOVED_MAX), all: moved.length };
}

interface Moved {
  row: string;
  column: string;
  was: string | null;
  now: string | null;
}

function movedIn(was: FrozenLeaf, now: FrozenLeaf | undefined, before: string): Moved[] {
  const [held, found] = [was, now].map((sheet) => new Map((sheet?.rows ?? []).map((r) => [r.key, r.cells])));
  const label = (cells: Record<string, string | null>): string =>
    [cells.code ?? cells.account, cells.name ?? cells.description].filter(Boolean).join(' ');
  const moved: Moved[] = [];
  for (const key of new Set([...(held?.keys() ?? []), ...(found?.keys() ?? [])])) {
    const [a, b] = [held?.get(key), found?.get(key)];
    for (const { key: column, label: head, is } of was.columns) {
      if (is === 'text' || is === 'date' || (a?.[column] ?? null) === (b?.[column] ?? null)) continue;
      const name = `${before}${label(a ?? b ?? {})}`;
      moved.push({ row: name, column: head, was: a?.[column] ?? null, now: b?.[column] ?? null });
    }
  }
  return moved;
}

/** A page of panels as it is frozen: its number, and what drives it in place of its own scope. */
const OVERVIEW = /^\/overviews\/(\d{1,9})(?:\?(.*))?$/s;

async function leavesAt(ctx: Context, viewer: Viewer, path: string): Promise<{ name: string; leaves: Leaf[] }> {
  const [, id, query = ''] = OVERVIEW.exec(path) ?? [];
  if (id === undefined) {
    const leaf = await leafOf(ctx, viewer, path);
    return { name: leaf.title, leaves: [leaf] };
  }
  return overviewLeaves(ctx, viewer, Number(id), readQuery(panelShape, new URLSearchParams(query)));
}

async function read(
  ctx: Context,
  viewer: Viewer,
  path: string,
): Promise<{ name: string; leaves: Leaf[]; sheets: FrozenLeaf[]; digest: string }> {
  const { name, leaves: whole } = await leavesAt(ctx, viewer, path);
  const leaves = whole.map(onFile);
  const sheets: FrozenLeaf[] = [];
  const digests: string[] = [];
  let count = 0;
  for (const leaf of leaves) {
    const digest = new LeafDigest(leaf);
    const rows: FrozenLeaf['rows'] = [];
    for await (const row of leaf.rows) {
      count += 1;
      if (count > ROWS_MAX)
        throw new ProblemError(
          422,
          `A frozen copy holds at most ${spokenCount(ROWS_MAX)} rows; take a file out instead`,
        );
      digest.row(row.cells);
      rows.push({ key: row.key, depth: row.depth, look: row.look, cells: plainCells(leaf.columns, row.cells) });
    }
    digests.push(digest.end(leaf.total));
    sheets.push({
      ...{ title: leaf.title, sentence: leaf.sentence, rows },
      columns: leaf.columns.map(({ key, label, is, digits }) => ({ key, label, is, digits })),
      facts: leaf.facts.map(([fact, says]) => [fact, says]),
      ...{ total: leaf.total && plainCells(leaf.columns, leaf.total.cells), proofs: [...leaf.proofs()] },
    });
  }
  const [only, another] = digests;
  return { name, leaves, sheets, digest: another === undefined ? (only ?? '') : sha256Text(digests.join('\n')) };
}

const addressesOf = (leaves: readonly Leaf[]): string => leaves.map(addressOf).join(' ');

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
  // A page of panels is of several questions, of which each has to be the viewer's own.
  const one = !OVERVIEW.test(row.path);
  const entities = one ? sheetPath(row.path).params.getAll('entity') : [];
  if (seesWhole(viewer) && entities.length > 0 && entities.every((entity) => maySeeBooks(viewer, entity))) return true;
  // The address of a list does not say who asked; of a figure it does.
  if (one && !isOfFigure(row.path)) return false;
  try {
    const { leaves } = await leavesAt(ctx, viewer, row.path);
    return addressesOf(leaves) === row.address && leaves.every((l) => l.address !== null);
  } catch (error) {
    if (error instanceof ProblemError) return false;
    throw error;
  }
}
