import { notFound } from '@/contracts/problem';
import { CalendarError, calendar } from '@/core/calendar';
import { cashBooks, cashGaps, convertToCash, openCashBooks } from '@/store/cashBasis';
import {
  byBooks,
  type Catalogue,
  type CatalogueEntity,
  newestLoad,
  readCatalogue,
  touchCatalogue,
} from '@/store/catalogue';
import type { Db } from '@/store/db';
import { openJobOf } from '@/store/jobs';
import { takeLoadLock, tidyAfterLoad } from '@/store/loads';
import { type Context, known } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { maySee, require, requireBooks, requireWhole, type Viewer } from '../asking/viewer';
import { addJob, begunBy } from '../jobs/jobs';
import type { Work } from '../jobs/work';
import { askCopies } from '../loads/copyLines';

/** Loads and this take turns. */
const TURN_EVERY_MS = 300;
/** So many documents that are not on it are listed. */
const GAPS_MAX = 500;

const subjectOf = ({ id }: { id: number }): string => `entity ${id}`;

function seenEntity(viewer: Viewer, code: string, { entities }: Catalogue): CatalogueEntity {
  const entity = entities.get(code);
  if (!entity || !maySee(viewer, code)) throw notFound(`Entity ${code}`);
  return entity;
}

/** Has a company's books be kept on the cash basis too, from now on. @returns the job that works it out, null where they are */
export async function askCashBasis(ctx: Context, viewer: Viewer, code: string): Promise<{ job: number | null }> {
  require(viewer, 'preparer', 'have a cash basis kept');
  requireBooks(viewer, code, 'have a cash basis kept');
  const entity = seenEntity(viewer, code, (await known(ctx.read)).catalogue);
  if (entity.cash) return { job: null };
  const subject = subjectOf(entity);
  const open = await openJobOf(ctx.write, 'cash basis', subject);
  if (open) return { job: open.id };
  const job = await onRecord(ctx, viewer, async (trx, record) => {
    await record('had a cash basis kept', `entity ${code}`, {});
    return addJob(trx, {
      ...{ kind: 'cash basis', subject, label: `Cash basis of ${entity.name}`, entities: [code] },
      ...begunBy(viewer),
    });
  });
  return { job };
}

/** Works out the cash basis of all documents of a company, between two loads. */
export async function keepCashBasis({ ctx, job, tell }: Work): Promise<{ message?: string }> {
  const id = Number(job.subject.split(' ')[1]);
  let made: number | null = null;
  for (;;) {
    const said = await ctx.work.transaction(async (trx) => {
      if (!(await takeLoadLock(trx))) return null;
      const catalogue = await readCatalogue(trx);
      const entity = byBooks(catalogue).get(id);
      const { load } = await newestLoad(trx);
      const books = entity && (await openCashBooks(trx, id, load));
      if (!books) return 'it is kept already';
      const { documents, gaps } = await convertToCash(trx, books, load, 'all', entity.currency, periodOf(entity));
      await touchCatalogue(trx);
      await askCopies(trx, job);
      made = books.books;
      return `${documents} documents are on it${gaps === 0 ? '' : `, ${gaps} cannot be`}`;
    });
    if (said !== null) {
      if (made !== null) await tidyAfterLoad(ctx.work, [made]);
      return { message: said };
    }
    await tell(0, 'waits for a load');
    await new Promise((resolve) => setTimeout(resolve, TURN_EVERY_MS));
  }
}

/** Brings the cash basis of every company that keeps one up to what a load changed, within its transaction. */
export async function followOnCashBasis(trx: Db, load: number): Promise<void> {
  const kept = await cashBooks(trx);
  if (kept.length === 0) return;
  const companies = byBooks(await readCatalogue(trx));
  for (const books of kept) {
    const entity = companies.get(books.entity);
    if (entity) await convertToCash(trx, books, load, 'of the load', entity.currency, periodOf(entity));
  }
}

/** The period of a day; null where the calendar has none. */
function periodOf(entity: CatalogueEntity): (day: string) => number | null {
  const cal = calendar(entity.calendar);
  return (day) => {
    try {
      return cal.periodAt(day).ordinal;
    } catch (error) {
      if (error instanceof CalendarError) return null;
      throw error;
    }
  };
}

/** Whether a company keeps a cash basis, and which documents cannot be on it, with why. */
export async function readCashBasis(ctx: Context, viewer: Viewer, code: string) {
  const { catalogue, newest } = await known(ctx.read);
  const entity = seenEntity(viewer, code, catalogue);
  requireWhole(viewer, 'What is on the cash basis is');
  const job = await openJobOf(ctx.read, 'cash basis', subjectOf(entity));
  const rows = entity.cash ? await cashGaps(ctx.read, entity.id, newest, GAPS_MAX + 1) : [];
  return {
    since: entity.cash?.since ?? null,
    job: job?.id ?? null,
    rows: rows.slice(0, GAPS_MAX),
    more: rows.length > GAPS_MAX,
  };
}
