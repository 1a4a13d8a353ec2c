import type { z } from 'zod';
import type { expectationChangeSchema, newExpectationSchema } from '@/contracts/bodies/all';
import { ProblemError, wrong } from '@/contracts/problem';
import { readSubject, subjectText } from '@/contracts/subject';
import type { Measure } from '@/contracts/traced';
import type { ExpectationRule } from '@/contracts/work';
import { neighbour, type Ordinal } from '@/core/calendar';
import { comparedWindow, normalPeriod } from '@/core/comparisons';
import { averageOf, grownBy, percentOf, priced, weighed } from '@/core/expectation';
import { add, exponentOf, formatAmount, type Minor } from '@/core/money';
import type { ExpectationRow } from '@/store/evidence';
import { type ExplainedPart, updateExpectation } from '@/store/expectations';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { spokenAmount } from '../asking/spokenNumbers';
import { canonicalSubject, figureAt, maySeeSubject } from '../asking/subjects';
import { typedAmount } from '../asking/typedAmount';
import { require, type Viewer } from '../asking/viewer';
import { figureBalance } from '../balances/accountBalances';
import { periodsBefore } from '../sheets/periodsBack';
import { aboutOf, keepEvidence, shownAbout } from './about';
import { type EvidenceParams, seenEvidence, seenPiece } from './seenEvidence';
import { takeAway } from './takeAway';
import { heldOpen } from './threads/words';
import { goneIsNull, valueNow } from './valueNow';

/** What figures are expected to be (ISA 520), said by somebody with a reason and held against what they are. */

/** Says what a figure should be. @throws ProblemError */
export async function stateExpectation(ctx: Context, viewer: Viewer, wanted: z.infer<typeof newExpectationSchema>) {
  require(viewer, 'preparer', 'say what a figure should be');
  const { subject: text, rule, reason, least, ...rest } = wanted;
  const subject = readSubject(text);
  if (subject.is !== 'figure') throw wrong('subject', 'only a figure is expected to be something; name a figure');
  const about = await aboutOf(ctx, viewer, { ...rest, subject: text });
  const asked = await figureOf(ctx, viewer, about.subject);
  const words = {
    rule: await understood(ctx, viewer, rule, asked),
    ...{ reason, currency: asked.currency, least: leastOf(least, asked.digits) },
    ...{ parts: [], conclusion: '' },
  };
  // What cannot be reckoned is said at once.
  await reckon(ctx, viewer, asked, words.rule, wanted.measure);
  const id = await onRecord(ctx, viewer, async (trx, record) => {
    const own = { ...words, rule: JSON.stringify(words.rule), parts: '[]' };
    const added = await keepEvidence(trx, 'expectation', about, own);
    await record('stated an expectation', about.subject, { expectation: added, ...words, measure: wanted.measure });
    return added;
  });
  return showExpectation(ctx, viewer, id);
}

function leastOf(text: string, digits: number): Minor {
  const least = typedAmount(text, digits, 'least');
  if (least < 0) throw wrong('least', 'a difference that needs explaining is not below nothing');
  return least;
}

async function figureOf(ctx: Context, viewer: Viewer, text: string): Promise<ResolvedFigure> {
  const subject = readSubject(text);
  if (subject.is !== 'figure') throw wrong('subject', 'this is no figure');
  return figureAt(ctx, viewer, subject.address, null);
}

/** A rule with the other figure in its canonical form, and amounts that can be read. @throws ProblemError naming the field */
async function understood(
  ctx: Context,
  viewer: Viewer,
  rule: ExpectationRule,
  { digits }: ResolvedFigure,
): Promise<ExpectationRule> {
  if (rule.by === 'own')
    return { by: 'own', amount: formatAmount(typedAmount(rule.amount, digits, 'rule.amount'), digits) };
  if (rule.by !== 'share') return rule;
  const { subject } = await canonicalSubject(ctx, viewer, rule.of);
  if (subject.is !== 'figure') throw wrong('rule.of', 'a share is of another figure');
  return { ...rule, of: subjectText(subject) };
}

interface Reckoned {
  amount: Minor;
  /** What it was reckoned from, in words. */
  words: string;
}

/** What a figure is expected to be, on the newest load. @throws ProblemError where it cannot be said */
async function reckon(
  ctx: Context,
  viewer: Viewer,
  asked: ResolvedFigure,
  rule: ExpectationRule,
  measure: Measure,
): Promise<Reckoned> {
  const { digits, currency } = asked;
  const text = (amount: Minor): string => `${currency} ${spokenAmount(amount, digits)}`;
  const more = (percent: string): string =>
    Number(percent) === 0 ? '' : `, and ${percent.replace('-', '')} % ${percent.startsWith('-') ? 'less' : 'more'}`;
  switch (rule.by) {
    case 'own':
      return { amount: typedAmount(rule.amount, digits, 'rule.amount'), words: 'an amount of one’s own' };
    case 'quantity':
      return {
        amount: priced(rule.quantity, rule.price, digits),
        words: `${rule.quantity} at ${currency} ${rule.price} each`,
      };
    case 'share': {
      const other = await valueNow(ctx, viewer, rule.of, rule.measure);
      if (other.value === null) throw wrong('rule.of', 'the other figure has no amount');
      if (other.currency !== currency)
        throw wrong('rule.of', `the other figure is in ${other.currency}, and this one in ${currency}`);
      return {
        amount: percentOf(other.value, rule.percent),
        words: `${rule.percent} % of ${rule.label || 'another figure'}, ${text(other.value)}`,
      };
    }
    case 'year-before': {
      const window = comparedWindow(asked.calendar, asked.figure.window, 'year-before');
      if (window === null) throw wrong('rule.by', 'the calendar has no year before');
      const before = (await figureBalance(ctx, asked.narrowed({ window })))[measure];
      return { amount: grownBy(before, rule.percent), words: `the year before, ${text(before)}${more(rule.percent)}` };
    }
    case 'average': {
      const { sum, many, times } = await historyOf(ctx, asked, rule.periods, measure);
      const average = averageOf(sum, many, 1);
      const all = averageOf(sum, many, times);
      if (average === null || all === null) throw wrong('rule.periods', 'no period before it has anything');
      return {
        amount: grownBy(all, rule.percent),
        words: `the average of ${many} ${many === 1 ? 'period' : 'periods'} before, ${text(average)}${
          all === average ? '' : `, for ${times} periods`
        }${more(rule.percent)}`,
      };
    }
  }
}

/** What adds up over periods; balances do not, and each is of its own period. */
const ADDS_UP: readonly Measure[] = ['movement', 'debit', 'credit'];

/** What a figure came to in so many periods before its window, and of how many of them what its window has is made. */
async function historyOf(
  ctx: Context,
  asked: ResolvedFigure,
  most: number,
  measure: Measure,
): Promise<{ sum: Minor; many: number; times: number }> {
  const { calendar: cal } = asked;
  const { window } = asked.figure;
  if (window.by !== 'period') throw wrong('rule.by', 'an average of periods is for a window of periods');
  const periods = periodsBefore(asked, window.from, most);
  const [first] = periods;
  const last = periods.at(-1);
  if (first === undefined || last === undefined) return { sum: 0, many: 0, times: 1 };
  const many = periods.length;
  const over = async (from: Ordinal, to: Ordinal): Promise<Minor> =>
    (await figureBalance(ctx, asked.narrowed({ window: { by: 'period', from, to } })))[measure];
  if (!ADDS_UP.includes(measure)) {
    let sum = 0;
    for (const period of periods) sum = add(sum, await over(period, period));
    return { sum, many, times: 1 };
  }
  // What an adjustment period has belongs to the year that it adjusts, and counts with the periods of it.
  const end = normalPeriod(cal, window.to);
  let times = 1;
  for (let at: Ordinal | null = normalPeriod(cal, window.from); at !== null && at < end; at = neighbour(cal, at, 1))
    times += 1;
  return { sum: await over(first, last), many, times };
}

/** Expectations of what the viewer may see, with how they came out on the newest load. */
export async function listExpectations(ctx: Context, viewer: Viewer, params: EvidenceParams) {
  const { rows, next } = await seenEvidence(ctx, viewer, 'expectation', params, { ofAll: true });
  const shown: Awaited<ReturnType<typeof shownExpectation>>[] = [];
  // Each asks some figures of its own: a few at once leave connections to others.
  for (let at = 0; at < rows.length; at += AT_ONCE)
    shown.push(...(await Promise.all(rows.slice(at, at + AT_ONCE).map((row) => shownExpectation(ctx, viewer, row)))));
  return { rows: shown, next };
}
const AT_ONCE = 4;

export const showExpectation = async (ctx: Context, viewer: Viewer, id: number) =>
  shownExpectation(ctx, viewer, await seenPiece(ctx, viewer, 'expectation', id));

/** Changes what is expected, or what explains the difference. @throws ProblemError */
export async function changeExpectation(
  ctx: Context,
  viewer: Viewer,
  id: number,
  { rule, least, parts, ...change }: z.infer<typeof expectationChangeSchema>,
) {
  require(viewer, 'preparer', 'change an expectation');
  const row = await seenPiece(ctx, viewer, 'expectation', id);
  const asked = await figureOf(ctx, viewer, row.subject);
  const words = {
    ...(rule === undefined ? {} : { rule: await understood(ctx, viewer, rule, asked) }),
    ...(least === undefined ? {} : { least: leastOf(least, exponentOf(row.currency)) }),
    ...(parts === undefined ? {} : { parts: await partsOf(ctx, viewer, parts, row) }),
    ...(change.reason === undefined ? {} : { reason: change.reason }),
    ...(change.conclusion === undefined ? {} : { conclusion: change.conclusion }),
  };
  if (words.rule) await reckon(ctx, viewer, asked, words.rule, row.measure as Measure);
  await onRecord(ctx, viewer, async (trx, record) => {
    await heldOpen(trx, row.thread);
    await updateExpectation(trx, id, words);
    const before = Object.fromEntries(Object.keys(words).map((name) => [name, row[name as keyof ExpectationRow]]));
    await record('changed an expectation', row.subject, { expectation: id, ...words, before });
  });
  return showExpectation(ctx, viewer, id);
}

type PartWanted = NonNullable<z.infer<typeof expectationChangeSchema>['parts']>[number];

/** Parts with their figures in canonical form, in the currency of what they explain. @throws ProblemError naming the part */
function partsOf(ctx: Context, viewer: Viewer, parts: readonly PartWanted[], row: ExpectationRow) {
  return Promise.all(
    parts.map(async ({ text, subject, measure = 'movement', amount }, i): Promise<ExplainedPart> => {
      if (subject === undefined)
        return {
          ...{ text, subject: null, measure: null },
          amount: typedAmount(amount as string, exponentOf(row.currency), `parts.${i}.amount`),
        };
      const own = subjectText((await canonicalSubject(ctx, viewer, subject)).subject);
      const { currency, value } = await valueNow(ctx, viewer, own, measure);
      if (currency !== row.currency || value === null)
        throw wrong(`parts.${i}.subject`, `a part is an amount in ${row.currency}, and this is in ${currency}`);
      return { text, subject: own, measure, amount: null };
    }),
  );
}

/** Takes one's own expectation away; the record keeps it. */
export const removeExpectation = (ctx: Context, viewer: Viewer, id: number): Promise<void> =>
  takeAway(ctx, viewer, 'expectation', id, 'took an expectation away', ({ rule, reason }) => ({ rule, reason }));

/** An expectation with how it came out; what cannot be reckoned any more says so. */
async function shownExpectation(ctx: Context, viewer: Viewer, row: ExpectationRow) {
  const digits = exponentOf(row.currency);
  const text = (amount: Minor): string => formatAmount(amount, digits);
  const asked = await figureOf(ctx, viewer, row.subject);
  const measure = row.measure as Measure;
  const [actual, expected, parts] = await Promise.all([
    figureBalance(ctx, asked).then((whole) => whole[measure]),
    reckoned(ctx, viewer, asked, row),
    Promise.all(row.parts.map((part) => shownPart(ctx, viewer, part, row))),
  ]);
  const whole = parts.every((p) => p.minor !== null);
  const amount = 'amount' in expected ? expected.amount : null;
  const found =
    amount === null
      ? null
      : weighed(
          actual,
          amount,
          row.least,
          parts.map((p) => p.minor ?? 0),
        );
  return {
    ...{
      ...shownAbout(row, viewer),
      sentence: asked.sentence,
      currency: row.currency,
      rule: shownRule(row.rule, amount !== null),
    },
    reckoned: 'words' in expected ? expected.words : expected.why,
    expected: amount === null ? null : text(amount),
    actual: text(actual),
    difference: found && text(found.difference),
    least: text(row.least),
    parts: parts.map(({ minor, ...part }) => ({ ...part, amount: minor === null ? null : text(minor) })),
    // What is not seen is not added up.
    explained: found && whole ? text(found.explained) : null,
    left: found && whole ? text(found.left) : null,
    state: stateOf(found, whole),
    ...{ reason: row.reason, conclusion: row.conclusion, changed: row.changed_at.toISOString() },
  };
}

function stateOf(found: ReturnType<typeof weighed> | null, whole: boolean) {
  if (found === null) return 'not reckoned' as const;
  if (!found.stands) return 'as expected' as const;
  return found.needs || !whole ? ('needs explaining' as const) : ('explained' as const);
}

/** The other figure is named to those who see what it comes to. */
const shownRule = (rule: ExpectationRule, seen: boolean): ExpectationRule =>
  rule.by === 'share' && !seen ? { ...rule, of: '', label: '' } : rule;

/** What is expected, or why it cannot be reckoned for this viewer. */
async function reckoned(
  ctx: Context,
  viewer: Viewer,
  asked: ResolvedFigure,
  { rule, measure, entities, currency }: ExpectationRow,
): Promise<Reckoned | { why: string }> {
  if (asked.currency !== currency) return { why: `the figure is in ${asked.currency} now` };
  if (rule.by === 'share' && !(await maySeeSubject(ctx, viewer, { subject: rule.of, entities })))
    return { why: 'what it is a share of is outside of what you may see' };
  try {
    return await reckon(ctx, viewer, asked, rule, measure as Measure);
  } catch (error) {
    if (error instanceof ProblemError) return { why: error.errors.map((e) => e.message).join('; ') || error.message };
    throw error;
  }
}

async function shownPart(ctx: Context, viewer: Viewer, part: ExplainedPart, { entities }: ExpectationRow) {
  const { subject, measure } = part;
  if (subject === null) return { text: part.text, subject, measure, typed: true, minor: part.amount };
  const seen = await maySeeSubject(ctx, viewer, { subject, entities });
  const now = seen ? await goneIsNull(valueNow(ctx, viewer, subject, measure as Measure)) : null;
  return {
    ...{ text: part.text, subject: now === null ? null : subject, measure, typed: false },
    minor: now?.value ?? null,
  };
}
