import type { Knex } from 'knex';
import { newestLoad } from '@/store/catalogue';
import { dropUnregistered } from '@/store/columns/files';
import { makePart, NotExact } from '@/store/columns/make';
import {
  allParts,
  type BooksState,
  booksStates,
  currentParts,
  forgetParts,
  keepPart,
  linesInAll,
  type Part,
  stillHolds,
} from '@/store/columns/manifest';
import { type Db, inOneState } from '@/store/db';
import { openJobOf } from '@/store/jobs';
import type { Context } from '../asking/context';
import { addJob } from '../jobs/jobs';
import type { Work } from '../jobs/work';

const SUBJECT = 'lines';
/** Small books are read line by line as quickly as by columns. */
const LEAST_LINES = 100_000;
/** So many parts are asked one beside the other; then they are made into one. */
const PARTS_MAX = 6;

/**
 * Has what changed since it was copied copied by columns, by a job of its own.
 * @param by who changed it
 * @param has whether the file of a copy is there, where that is looked at too
 */
export async function askCopies(
  trx: Knex.Transaction,
  { person, person_name }: { person: number | null; person_name: string },
  has: (part: Part) => boolean = () => true,
): Promise<void> {
  if ((await linesInAll(trx)) < leastLines() || (await wanting(trx, has)).length === 0) return;
  const label = 'Copies by columns';
  await addJob(trx, { kind: 'columns', subject: SUBJECT, label, person, person_name, entities: null });
}

/** Asks for copies that are not there: of books from before there were any, and where a folder was lost. */
export async function askMissingCopies(ctx: Context): Promise<void> {
  if (await openJobOf(ctx.work, 'columns', SUBJECT)) return;
  const by = { person: null, person_name: 'the installation' };
  await ctx.work.transaction((trx) => askCopies(trx, by, (part) => ctx.columns.has(part)));
}

const leastLines = (): number => Number(process.env.JUST_THREAD_COLUMNS_FROM ?? LEAST_LINES);

/** Books of which no copy is as new as they are, or not all of its files are there. */
async function wanting(db: Db, has: (part: Part) => boolean): Promise<BooksState[]> {
  const [states, current] = [await booksStates(db), await currentParts(db)];
  return states.filter(({ books }) => !current.get(books)?.every(has));
}

/** Throws all copies away and makes them again. */
export async function copyAgain(ctx: Context): Promise<string> {
  await forgetParts(ctx.work);
  return bringCopiesUp(ctx);
}

/** Brings the copies of lines by columns up to the books. */
export async function copyLines({ ctx, tell }: Work): Promise<{ message?: string }> {
  if ((await linesInAll(ctx.work)) < leastLines()) {
    await forgetParts(ctx.work);
    await dropUnregistered(ctx.work, ctx.columns.folder);
    return { message: 'so few lines are read as they are' };
  }
  return { message: await bringCopiesUp(ctx, tell) };
}

/** Copies whatever changed since it was copied. @returns what was done, in words */
export async function bringCopiesUp(
  ctx: Context,
  tell: (share: number) => Promise<void> = async () => {},
): Promise<string> {
  const all = await wanting(ctx.work, (part) => ctx.columns.has(part));
  let copied = 0;
  for (const [i, { books }] of all.entries()) {
    const share = (of: number): Promise<void> => tell((i + of) / all.length);
    try {
      copied += await copyBooks(ctx, books, share);
    } catch (error) {
      if (!(error instanceof NotExact)) throw error;
      return error.message;
    }
  }
  await dropUnregistered(ctx.work, ctx.columns.folder);
  return `${copied.toLocaleString('en')} lines were copied`;
}

/** Copies what came to books since they were copied, or all of them where lines that were there are replaced. */
async function copyBooks(ctx: Context, books: number, tell: (share: number) => Promise<void>): Promise<number> {
  return inOneState(ctx.work, async (trx) => {
    const state = (await booksStates(trx)).find((s) => s.books === books);
    if (!state) return 0;
    const mine = (await allParts(trx)).filter((p) => p.books === books);
    const fit = mine.every((p) => p.rewrites === state.rewrites && ctx.columns.has(p)) && mine.length < PARTS_MAX;
    const after = fit ? Math.max(0, ...mine.map((p) => p.to)) : 0;
    const { load: to } = await newestLoad(trx);
    const made = await makePart(trx, ctx.columns.folder, { books, after, to }, tell);
    if (made.lines === 0 && fit && mine.length > 0) await stillHolds(trx, state);
    else await keepPart(trx, { ...state, ...made, after, to }, !fit);
    return made.lines;
  });
}
