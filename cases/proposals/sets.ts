import type { z } from 'zod';
import type { newSetSchema } from '@/contracts/bodies/all';
import { ProblemError, wrong } from '@/contracts/problem';
import { FIRST_SET } from '@/core/figure';
import { didYouMean, nearest } from '@/core/selection';
import { touchCatalogue } from '@/store/catalogue';
import type { Db } from '@/store/db';
import { addSet, readSets, TRIED } from '@/store/proposed';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { require, type Viewer } from '../asking/viewer';
import { allSeenEvidence } from '../evidence/seenEvidence';

/** Sets of proposed entries: what should be booked, and what is tried out under a name of its own. */

export async function listSets(ctx: Context, viewer: Viewer) {
  const [sets, seen] = await Promise.all([readSets(ctx.write), allSeenEvidence(ctx, viewer, 'proposed', null)]);
  return {
    rows: sets
      .filter((s) => s.name !== TRIED)
      .map((s) => ({
        ...{ name: s.name, about: s.about, by: s.person },
        entries: seen.filter((p) => p.set === s.id && p.state !== 'retired').length,
      })),
  };
}

/** @throws ProblemError for a name that is taken */
export async function makeSet(ctx: Context, viewer: Viewer, { name, about }: z.infer<typeof newSetSchema>) {
  require(viewer, 'preparer', 'make a set of proposed entries');
  const sets = await readSets(ctx.write);
  if (sets.some((s) => s.name.toLowerCase() === name.toLowerCase()))
    throw new ProblemError(409, `There is a set “${name}” already`, [
      { path: 'name', message: 'take another name, or propose in that set' },
    ]);
  await onRecord(ctx, viewer, async (trx, record) => {
    await addSet(trx, { name, about, person: viewer.id });
    await touchCatalogue(trx);
    await record('made a set of proposed entries', `set ${name}`, { about });
  });
  return listSets(ctx, viewer);
}

/** The number of a set by its name; of what should be booked where none is named. @throws ProblemError */
export async function setNumber(db: Db, name: string = FIRST_SET): Promise<number> {
  const sets = await readSets(db);
  const found = sets.find((s) => s.name === name && s.name !== TRIED);
  if (found) return found.id;
  const near = nearest(
    name,
    sets.map((s) => s.name).filter((n) => n !== TRIED),
  );
  throw wrong('set', `there is no set “${name}”${didYouMean(near)}`);
}

/** The number of the set in which drafts are tried out. */
export async function triedSet(db: Db): Promise<number> {
  return (await readSets(db)).find((s) => s.name === TRIED)?.id as number;
}
