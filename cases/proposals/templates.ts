import type { z } from 'zod';
import type { filledSchema, templateSchema } from '@/contracts/bodies/all';
import { notFound, ProblemError, wrong } from '@/contracts/problem';
import { readSubject, subjectText } from '@/contracts/subject';
import { periodText } from '@/core/calendar';
import { percentOf, priced } from '@/core/expectation';
import { mergeStats, quantityText, statValue } from '@/core/lineStats';
import { add, formatAmount, type Minor } from '@/core/money';
import { recordSums } from '@/store/balances';
import { addTemplate, readTemplates, removeTemplate } from '@/store/proposed';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { canonicalSubject, figureAt } from '../asking/subjects';
import { typedAmount } from '../asking/typedAmount';
import { maySee, require, type Viewer } from '../asking/viewer';
import { valueNow } from '../evidence/valueNow';
import { shownDraft } from './draft';
import { linesWanted, momentOf, proposedIn } from './lines';

/**
 * Templates of entries that recur (RE-12): lines with an amount, with so many percent of a figure or so much for each unit
 * of what its lines count, over the period for which the entry is, or with what is left.
 */

type Template = z.infer<typeof templateSchema>;

export async function listTemplates(ctx: Context, viewer: Viewer) {
  const rows = (await readTemplates(ctx.write)).filter((t) => maySee(viewer, t.entity));
  return {
    rows: rows.map((t) => ({
      ...{ id: t.id, name: t.name, entity: t.entity, words: t.words },
      ...{ by: t.person_name, at: t.at.toISOString() },
    })),
  };
}

/** @throws ProblemError for a line that takes what is left where another does, and for a name that is taken */
export async function keepTemplate(ctx: Context, viewer: Viewer, { name, ...words }: Template) {
  require(viewer, 'preparer', 'keep a template of entries');
  const { entity, digits } = await proposedIn(ctx, viewer, words.entity);
  if (words.lines.filter((l) => l.amount === undefined && l.of === undefined).length > 1)
    throw wrong('lines', 'one line takes what is left; give the others an amount or a figure');
  const lines = await Promise.all(
    words.lines.map(async (line, i) => {
      if (!entity.accounts.has(line.account))
        throw wrong(`lines.${i}.account`, `there is no account “${line.account}”`);
      if (line.amount !== undefined) typedAmount(line.amount, digits, `lines.${i}.amount`);
      if (line.of === undefined) return line;
      const { subject } = await canonicalSubject(ctx, viewer, line.of.subject);
      if (subject.is !== 'figure') throw wrong(`lines.${i}.of`, 'an amount is worked out from a figure');
      return { ...line, of: { ...line.of, subject: subjectText(subject) } };
    }),
  );
  if ((await readTemplates(ctx.write)).some((t) => t.name === name))
    throw new ProblemError(409, `There is a template “${name}” already`, [
      { path: 'name', message: 'take another name' },
    ]);
  await onRecord(ctx, viewer, async (trx, record) => {
    await addTemplate(trx, { name, entity: words.entity, words: { ...words, lines }, person: viewer.id });
    await record('kept a template of entries', `template ${name}`, { ...words, lines });
  });
  return listTemplates(ctx, viewer);
}

export async function dropTemplate(ctx: Context, viewer: Viewer, id: number): Promise<void> {
  require(viewer, 'preparer', 'take a template away');
  const row = (await readTemplates(ctx.write)).find((t) => t.id === id && maySee(viewer, t.entity));
  if (!row) throw notFound(`Template ${id}`);
  await onRecord(ctx, viewer, async (trx, record) => {
    await removeTemplate(trx, id);
    await record('took a template of entries away', `template ${row.name}`);
  });
}

/** The entry of a template for a day: figures are asked over the period of it. @throws ProblemError */
export async function fillTemplate(ctx: Context, viewer: Viewer, id: number, on: z.infer<typeof filledSchema>) {
  const row = (await readTemplates(ctx.write)).find((t) => t.id === id && maySee(viewer, t.entity));
  if (!row) throw notFound(`Template ${id}`);
  const words = row.words as Omit<Template, 'name'>;
  const books = await proposedIn(ctx, viewer, row.entity);
  const { digits, entity } = books;
  const moment = momentOf(books.calendar, on);
  const amounts = await Promise.all(
    words.lines.map(async ({ amount, of }, i): Promise<Minor | null> => {
      if (amount !== undefined) return typedAmount(amount, digits, `lines.${i}.amount`);
      if (of === undefined) return null;
      const figure = overPeriod(of.subject, periodText(moment.period));
      if ('each' in of) return priced(await quantityOf(ctx, viewer, figure, `lines.${i}.of`), of.each, digits);
      const now = await valueNow(ctx, viewer, figure, of.measure);
      if (now.value === null || now.currency !== entity.currency)
        throw wrong(`lines.${i}.of`, `the figure of line ${i + 1} is no amount in ${entity.currency}`);
      return percentOf(now.value, of.percent);
    }),
  );
  const rest = -amounts.reduce<Minor>((sum, amount) => add(sum, amount ?? 0), 0) || 0;
  const wanted = words.lines.flatMap(({ of: _, ...line }, i) => {
    const amount = amounts[i] ?? rest;
    return amount === 0 ? [] : [{ ...line, amount: formatAmount(amount, digits) }];
  });
  return shownDraft(ctx, viewer, books, linesWanted(books, { ...on, lines: wanted }));
}

/** What the lines of a figure count, added up. @throws ProblemError where they count nothing, or several things */
async function quantityOf(ctx: Context, viewer: Viewer, text: string, path: string): Promise<string> {
  const subject = readSubject(text);
  if (subject.is !== 'figure') throw wrong(path, 'a quantity is that of a figure');
  const asked = await figureAt(ctx, viewer, subject.address, null);
  const { db, question } = await asked.ask(ctx, [{ by: 'entry' }]);
  const lines = mergeStats((await recordSums(db, question, [])).map(({ kept }) => kept));
  const found = statValue(lines, 'quantity');
  if (found?.is !== 'quantity')
    throw wrong(
      path,
      `the lines of ${asked.sentence} ${lines.unit === null ? 'have no quantity' : 'count in several units'}`,
    );
  return quantityText(found.millionths);
}

/** A figure over another period than the one that it was copied with. */
function overPeriod(text: string, period: string): string {
  const subject = readSubject(text);
  if (subject.is !== 'figure') return text;
  const address = new URLSearchParams(subject.address);
  for (const name of ['window', 'goesOn', 'load']) address.delete(name);
  for (const end of ['from', 'to']) address.set(end, period);
  return subjectText({ is: 'figure', address: address.toString() });
}
