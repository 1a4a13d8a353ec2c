import type { z } from 'zod';
import type { keptScopeChangeSchema, newKeptScopeSchema } from '@/contracts/bodies';
import { notFound, ProblemError, wrong } from '@/contracts/problem';
import { readQuery, scopeShape } from '@/contracts/scope';
import {
  changeKeptScope,
  deleteKeptScope,
  type KeptScopeRow,
  keepAtHand,
  keepScope,
  keptScope,
  keptScopesFor,
  nameTaken,
  replaceScope,
} from '@/store/keptScopes';
import type { Context } from '../asking/context';
import { resolveFigure } from '../asking/resolveFigure';
import { maySee, seesWhole, type Viewer } from '../asking/viewer';

/** Sentences kept by name: one's own, and those that others share of which one may see all that they name. */
export async function showKeptScopes(ctx: Context, viewer: Viewer) {
  const rows = await keptScopesFor(ctx.read, viewer.id);
  const visible = await Promise.all(rows.map((row) => maySeeAllOf(ctx, viewer, row)));
  return { rows: rows.filter((_, i) => visible[i]).map((row) => shown(row, viewer)) };
}

/**
 * A sentence is seen by whom its figure is shown whole: whoever is granted a part of it is not told what it names. Its
 * author sees it whatever was granted or taken since, for they wrote it.
 */
async function maySeeAllOf(ctx: Context, viewer: Viewer, row: KeptScopeRow): Promise<boolean> {
  if (row.person === viewer.id) return true;
  if (!row.shared || !row.entities.every((e) => maySee(viewer, e))) return false;
  // Without a company it is about all that its reader may see, which is told by the rest of the grant.
  if (viewer.entities === null && seesWhole(viewer)) return true;
  const params = new URLSearchParams(
    [...new URLSearchParams(row.query)].filter(([name]) => name.startsWith('dim.') || Object.hasOwn(scopeShape, name)),
  );
  try {
    const scope = readQuery(scopeShape, params);
    const everything: Viewer = { ...viewer, entities: null, members: {}, accounts: null };
    const [mine, whole] = await Promise.all([
      resolveFigure(ctx, viewer, scope, ANY),
      resolveFigure(ctx, everything, scope, ANY),
    ]);
    return mine.address === whole.address;
  } catch (error) {
    if (error instanceof ProblemError) return false;
    throw error;
  }
}

const ANY = { translates: true };

/** Keeps a sentence as it is written: a relative window, such as the year to date, stays relative. */
export async function keepSentence(
  ctx: Context,
  viewer: Viewer,
  { query, replaces, ...body }: z.infer<typeof newKeptScopeSchema>,
) {
  const entities = new URLSearchParams(query).getAll('entity');
  for (const entity of entities) if (!maySee(viewer, entity)) throw notFound(`Entity ${entity}`);
  const id = await ctx.write.transaction(async (trx) => {
    const scope = { ...body, query, entities, person: viewer.id };
    return (await keepScope(trx, scope)) ?? (replaces ? replaceScope(trx, scope) : null);
  });
  if (id === null)
    throw new ProblemError(409, 'The name is taken', [
      {
        path: 'name',
        message: `you have a sentence called “${body.name}”; keep this one in its place, or under another name`,
      },
    ]);
  return shown((await keptScope(ctx.write, id, viewer.id)) as KeptScopeRow, viewer);
}

/** Changes one's own sentence; whether it is at hand is everybody's own choice of those that they see. */
export async function changeSentence(
  ctx: Context,
  viewer: Viewer,
  id: number,
  change: z.infer<typeof keptScopeChangeSchema>,
) {
  const { atHand, ...changes } = change;
  const wanted = Object.fromEntries(Object.entries(changes).filter(([, value]) => value !== undefined)) as Omit<
    typeof change,
    'atHand'
  >;
  const row = Object.keys(wanted).length > 0 ? await own(ctx, viewer, id) : await seen(ctx, viewer, id);
  const { name } = wanted;
  if (name !== undefined && (await nameTaken(ctx.write, row, name)))
    throw wrong('name', `another of your sentences is called “${name}”`);
  await ctx.write.transaction(async (trx) => {
    if (Object.keys(wanted).length > 0)
      await changeKeptScope(trx, row, wanted as Parameters<typeof changeKeptScope>[2]);
    if (atHand !== undefined) await keepAtHand(trx, id, viewer.id, atHand);
  });
  return shown((await keptScope(ctx.write, id, viewer.id)) as KeptScopeRow, viewer);
}

export async function dropSentence(ctx: Context, viewer: Viewer, id: number): Promise<void> {
  await deleteKeptScope(ctx.write, (await own(ctx, viewer, id)).id);
}

async function own(ctx: Context, viewer: Viewer, id: number): Promise<KeptScopeRow> {
  const row = await keptScope(ctx.write, id, viewer.id);
  if (row?.person !== viewer.id) throw notFound(`Sentence ${id}`);
  return row;
}

async function seen(ctx: Context, viewer: Viewer, id: number): Promise<KeptScopeRow> {
  const row = await keptScope(ctx.write, id, viewer.id);
  if (!row || !(await maySeeAllOf(ctx, viewer, row))) throw notFound(`Sentence ${id}`);
  return row;
}

const shown = (row: KeptScopeRow, viewer: Viewer) => ({
  id: row.id,
  name: row.name,
  folder: row.folder,
  place: row.place,
  query: row.query,
  shared: row.shared,
  /** Whether its place opens with it, for the viewer. */
  opens: row.opens && row.person === viewer.id,
  mine: row.person === viewer.id,
  atHand: row.at_hand,
  by: row.person_name,
});
