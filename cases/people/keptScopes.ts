import type { z } from 'zod';
import type { keptScopeChangeSchema, newKeptScopeSchema } from '@/contracts/bodies/all';
import { forbidden, notFound, ProblemError, wrong } from '@/contracts/problem';
import { scopeAmong } from '@/contracts/scope';
import type { Right } from '@/contracts/work';
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
import { given } from '../asking/given';
import { resolveFigure } from '../asking/resolveFigure';
import { maySee, seesWhole, type Viewer } from '../asking/viewer';
import { goesAsFarAs, mustReach, rightsOf, type Shared } from './sharing';

/** Sentences kept by name: one's own, and those that others share of which one may see all that they name. */
export async function showKeptScopes(ctx: Context, viewer: Viewer) {
  const all = await keptScopesFor(ctx.write, viewer.id);
  const rights = await rightsOf(ctx.write, 'scope', viewer, all);
  const rightTo = (row: KeptScopeRow): Right => rights.get(row.id) ?? 'nothing';
  // What an owner might share is not therefore among what others shared with them.
  const rows = all.filter((row) => row.person === viewer.id || goesAsFarAs(rightTo(row), 'open'));
  const visible = await Promise.all(rows.map((row) => maySeeAllOf(ctx, viewer, row)));
  return { rows: rows.filter((_, i) => visible[i]).map((row) => shown(row, viewer, rightTo(row))) };
}

/**
 * A sentence is seen by whom its figure is shown whole: whoever is granted a part of it is not told what it names. Its
 * author sees it whatever was granted or taken since, for they wrote it.
 */
async function maySeeAllOf(ctx: Context, viewer: Viewer, row: KeptScopeRow): Promise<boolean> {
  if (row.person === viewer.id) return true;
  if (!row.entities.every((e) => maySee(viewer, e))) return false;
  // Without a company it is about all that its reader may see, which is told by the rest of the grant.
  if (viewer.entities === null && seesWhole(viewer)) return true;
  try {
    const scope = scopeAmong(new URLSearchParams(row.query));
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
  const entities = entitiesIn(viewer, query);
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
  return shown((await keptScope(ctx.write, id, viewer.id)) as KeptScopeRow, viewer, 'share');
}

/**
 * Changes a sentence, for whoever may: its name, folder and shape; whether everybody may open it, for whoever may share
 * it. Whether it is at hand is everybody's own choice of those that they see, and what a place opens with that of whoever
 * made it.
 */
export async function changeSentence(
  ctx: Context,
  viewer: Viewer,
  id: number,
  change: z.infer<typeof keptScopeChangeSchema>,
) {
  const { atHand, ...changes } = change;
  const wanted = given(changes);
  const { row, may } = await seen(ctx, viewer, id);
  if (Object.keys(wanted).length > 0)
    mustReach(may, wanted.shared === undefined ? 'change' : 'share', row.name, row.person_name);
  if (wanted.opens !== undefined && row.person !== viewer.id)
    throw forbidden(
      `“${row.name}” is ${row.person_name}’s; keep it under a name of your own for your place to open with it`,
    );
  const { name } = wanted;
  const entities = wanted.query === undefined ? null : entitiesIn(viewer, wanted.query);
  if (name !== undefined && (await nameTaken(ctx.write, row, name)))
    throw wrong('name', `another of your sentences is called “${name}”`);
  await ctx.write.transaction(async (trx) => {
    if (Object.keys(wanted).length > 0)
      await changeKeptScope(trx, row, { ...wanted, ...(entities ? { entities } : {}) } as Parameters<
        typeof changeKeptScope
      >[2]);
    if (atHand !== undefined) await keepAtHand(trx, id, viewer.id, atHand);
  });
  return shown((await keptScope(ctx.write, id, viewer.id)) as KeptScopeRow, viewer, may);
}

export async function dropSentence(ctx: Context, viewer: Viewer, id: number): Promise<void> {
  const { row } = await seen(ctx, viewer, id);
  if (row.person !== viewer.id) throw forbidden(`Only ${row.person_name} can take “${row.name}” away`);
  await deleteKeptScope(ctx.write, id);
}

/** The companies that a sentence names. @throws ProblemError for one that the viewer does not see */
function entitiesIn(viewer: Viewer, query: string): string[] {
  const entities = new URLSearchParams(query).getAll('entity');
  for (const entity of entities) if (!maySee(viewer, entity)) throw notFound(`Entity ${entity}`);
  return entities;
}

/** A sentence that the viewer may open, and what else they may do with it. @throws ProblemError 404 */
async function seen(ctx: Context, viewer: Viewer, id: number): Promise<{ row: KeptScopeRow; may: Right }> {
  const row = await keptScope(ctx.write, id, viewer.id);
  const may = row ? ((await rightsOf(ctx.write, 'scope', viewer, [row])).get(id) ?? 'nothing') : 'nothing';
  if (!row || !goesAsFarAs(may, 'open') || !(await maySeeAllOf(ctx, viewer, row))) throw notFound(`Sentence ${id}`);
  return { row, may };
}

/** A sentence as what is shared. */
export async function sharedSentence(ctx: Context, viewer: Viewer, id: number): Promise<Shared> {
  const { row } = await seen(ctx, viewer, id);
  return {
    ...{ kind: 'scope', made: row, name: row.name, by: row.person_name },
    ...{ subject: `sentence ${id}`, place: `/${row.place}${row.query ? `?${row.query}` : ''}` },
  };
}

const shown = (row: KeptScopeRow, viewer: Viewer, may: Right) => ({
  id: row.id,
  name: row.name,
  folder: row.folder,
  place: row.place,
  query: row.query,
  shared: row.shared,
  /** Whether its place opens with it, for the viewer. */
  opens: row.opens && row.person === viewer.id,
  mine: row.person === viewer.id,
  may,
  atHand: row.at_hand,
  by: row.person_name,
});
