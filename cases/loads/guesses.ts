import { notFound } from '@/contracts/problem';
import type { Db } from '@/store/db';
import { keepSetting, readSetting } from '@/store/settings';
import { type Context, known } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { maySeeBooks, require, requireBooks, type Viewer } from '../asking/viewer';

/** What was guessed when a ledger was begun with one file, and who has looked at it since. */
interface Guess {
  key: string;
  says: string;
  confirmed: { by: string; at: string } | null;
}

const nameOf = (entity: string): string => `guesses of ${entity}`;

/** Keeps what was guessed of a company, to be looked at later. */
export const keepGuesses = (
  db: Db,
  viewer: Viewer,
  entity: string,
  guesses: readonly { key: string; says: string }[],
): Promise<void> =>
  keepSetting(db, nameOf(entity), { guesses: guesses.map((g): Guess => ({ ...g, confirmed: null })) }, viewer.name);

const guessesOf = async (db: Db, entity: string): Promise<Guess[]> =>
  (await readSetting<{ guesses: Guess[] }>(db, nameOf(entity)))?.guesses ?? [];

/** What was guessed of the companies that the viewer sees whole and nobody has confirmed yet. */
export async function openGuesses(ctx: Context, viewer: Viewer) {
  const { catalogue } = await known(ctx.read);
  const seen = [...catalogue.entities.keys()].filter((entity) => maySeeBooks(viewer, entity));
  const open = await Promise.all(
    seen.map(async (entity) =>
      (await guessesOf(ctx.read, entity)).flatMap(({ key, says, confirmed }) =>
        confirmed === null ? [{ entity, key, says }] : [],
      ),
    ),
  );
  return { rows: open.flat() };
}

/** Says that what was guessed is right, or has been put right. @param key absent: all of them */
export async function confirmGuesses(
  ctx: Context,
  viewer: Viewer,
  entity: string,
  { key }: { key?: string | undefined },
): Promise<void> {
  require(viewer, 'preparer', 'confirm what was guessed');
  requireBooks(viewer, entity, 'confirm what was guessed');
  await onRecord(ctx, viewer, async (trx, record) => {
    const guesses = await guessesOf(trx, entity);
    const mine = guesses.filter((g) => g.confirmed === null && (key === undefined || g.key === key));
    if (mine.length === 0) throw notFound(key === undefined ? 'Anything to confirm' : `Guess ${key}`);
    const confirmed = { by: viewer.name, at: new Date().toISOString() };
    await keepSetting(
      trx,
      nameOf(entity),
      { guesses: guesses.map((g) => (mine.includes(g) ? { ...g, confirmed } : g)) },
      viewer.name,
    );
    await record('confirmed what was guessed', `entity ${entity}`, { guesses: mine.map((g) => g.key) });
  });
}
