import type { z } from 'zod';
import { notFound, wrong } from '@/contracts/problem';
import type { misstatementsShape } from '@/contracts/questions';
import { type Ordinal, parsePeriod, periodText, yearOf } from '@/core/calendar';
import { percentOf } from '@/core/expectation';
import { FIRST_SET } from '@/core/figure';
import { above } from '@/core/materiality';
import { add, formatAmount, type Minor, sum } from '@/core/money';
import {
  type Effect,
  effectOf,
  onResult,
  PROPOSED_KINDS,
  type ProposedKind,
  type ProposedLine,
} from '@/core/proposedEntry';
import type { ProposedRow } from '@/store/evidence';
import type { Context } from '../asking/context';
import { requireWhole, type Viewer } from '../asking/viewer';
import { allSeenEvidence } from '../evidence/seenEvidence';
import { effectOfProposed } from './effect';
import { type BooksProposedIn, proposedIn, proposedNumber } from './lines';
import { materialFor } from './material';
import { materialityOf } from './materiality';
import { addEffects, printedEffect, resultOf, typeIn } from './shown';

/**
 * All misstatements of a company in a year against what is material (ISA 450.5, 450.8, 450.11, 450.12): those that are
 * corrected, which a later load booked, and those that are not, whoever has left them so and why.
 */

type Asked = z.infer<z.ZodObject<typeof misstatementsShape>>;

export async function misstatements(ctx: Context, viewer: Viewer, asked: Asked) {
  requireWhole(viewer, 'A summary of misstatements is');
  const books = await proposedIn(ctx, viewer, asked.entity);
  const { entity, digits, names } = books;
  const { from, to } = spanOf(books, asked);
  const year = yearOf(to);
  const all = await allSeenEvidence(ctx, viewer, 'proposed', [entity.code]);
  // What is planned or foreseen is no misstatement, and what was tried out in a set of its own is none yet.
  const rows = all.filter(
    (p) =>
      p.type !== 'forecast' &&
      p.state !== 'retired' &&
      p.set_name === FIRST_SET &&
      p.lines.some((l) => l.period <= to && (l.period >= from || isOpen(p))),
  );
  const material = await materialFor(ctx, entity.code, year, entity.currency);
  const weighed = rows.map((row) => weigh(books, row, year, to));
  const groups = (['uncorrected', 'corrected'] as const).flatMap((is) =>
    PROPOSED_KINDS.flatMap((kind) => {
      const own = weighed.filter((w) => w.row.type === kind && isOpen(w.row) === (is === 'uncorrected'));
      return own.length === 0 ? [] : [shownGroup(books, is, kind, own, material?.trivial ?? null)];
    }),
  );
  const open = weighed.filter((w) => isOpen(w.row));
  const corrected = weighed.filter((w) => !isOpen(w.row));
  const rollover = sum(open.map((w) => w.rollover));
  const ironCurtain = sum(open.map((w) => w.ironCurtain));
  const text = (amount: Minor): string => formatAmount(amount, digits);
  const worst = Math.abs(ironCurtain) > Math.abs(rollover) ? ironCurtain : rollover;
  const kept = await materialityOf(ctx, viewer, { entity: entity.code, year });
  const byLine =
    open.length === 0
      ? []
      : await changedLines(
          ctx,
          viewer,
          open.map((w) => w.row.id),
          entity.code,
        );
  return {
    ...{ entity: entity.code, entityName: entity.name, year, from: periodText(from), to: periodText(to) },
    ...{ currency: entity.currency, load: names.newest },
    materiality: kept.rows.find((m) => m.id === material?.id) ?? null,
    groups,
    uncorrected: {
      effect: printedEffect(addEffects(open.map((w) => w.effect)), '', digits),
      gross: text(grossOf(open)),
      rollover: text(rollover),
      ironCurtain: text(ironCurtain),
      prior: text(add(ironCurtain, -rollover)),
      afterTax: text(sum(open.map((w) => add(w.rollover, -w.tax)))),
    },
    corrected: {
      effect: printedEffect(addEffects(corrected.map((w) => w.effect)), '', digits),
      gross: text(grossOf(corrected)),
    },
    byLine,
    verdict: material === null ? ('not set' as const) : above(worst, material),
    outside: all.length - rows.length,
  };
}

const isOpen = (row: ProposedRow): boolean => row.state !== 'booked';

function spanOf({ calendar: cal, entity, names }: BooksProposedIn, asked: Asked): { from: Ordinal; to: Ordinal } {
  const read = (path: 'from' | 'to'): Ordinal | null => {
    const text = asked[path];
    if (text === undefined) return null;
    const period = parsePeriod(text);
    if (period === null) throw wrong(path, 'write a period as 2027.06');
    if (!cal.periodsOf(yearOf(period)).some((p) => p.ordinal === period))
      throw wrong(path, `${entity.code} has no period ${text}`);
    return period;
  };
  const last = names.extents.get(entity.code)?.lastPosted;
  if (last === undefined) throw notFound(`Lines of ${entity.code}`);
  const to = read('to') ?? last;
  const from = read('from') ?? cal.periodsOf(yearOf(to))[0]?.ordinal ?? to;
  if (from > to) throw wrong('to', 'the window ends before it begins');
  return { from, to };
}

interface Weighed {
  row: ProposedRow;
  effect: Effect;
  rollover: Minor;
  ironCurtain: Minor;
  tax: Minor;
}

/** What correcting an entry would do up to a period. */
function weigh(books: BooksProposedIn, row: ProposedRow, year: number, to: Ordinal): Weighed {
  const lines: ProposedLine[] = row.lines.filter((l) => l.period <= to);
  const { rollover, ironCurtain } = onResult(lines, typeIn(books), yearOf, year);
  const effect = effectOf(lines, typeIn(books));
  const tax = row.tax_percent === '' ? 0 : percentOf(rollover, row.tax_percent);
  return { row, effect, rollover, ironCurtain, tax };
}

/** Σ of what each does to the result, whichever way: what cancels out is seen all the same. */
const grossOf = (some: readonly Weighed[]): Minor => sum(some.map((w) => Math.abs(resultOf(w.effect))));

function shownGroup(
  { digits }: BooksProposedIn,
  is: 'uncorrected' | 'corrected',
  kind: ProposedKind,
  own: readonly Weighed[],
  trivial: Minor | null,
) {
  return {
    is,
    kind,
    rows: own.map((w) => ({
      ...{ id: w.row.id, number: proposedNumber(w.row.id), title: w.row.title || w.row.reason.slice(0, 120) },
      ...{ state: w.row.state, reason: w.row.state === 'waived' ? w.row.state_reason : w.row.reason },
      waivedBy: w.row.state === 'waived' ? w.row.state_by_name : null,
      effect: printedEffect(w.effect, w.row.tax_percent, digits),
      rollover: formatAmount(w.rollover, digits),
      ironCurtain: formatAmount(w.ironCurtain, digits),
      trivial: trivial !== null && largest(w.effect) <= trivial,
    })),
    total: printedEffect(addEffects(own.map((w) => w.effect)), '', digits),
    gross: formatAmount(grossOf(own), digits),
  };
}

const largest = (effect: Effect): Minor => Math.max(...Object.values(effect).map(Math.abs));

/** Rows of the statements that what is uncorrected would change. */
async function changedLines(ctx: Context, viewer: Viewer, ids: number[], entity: string) {
  const { statements } = await effectOfProposed(ctx, viewer, { ids, entity });
  return statements.flatMap((s) =>
    s.rows.map((r) => ({
      statement: s.name,
      key: r.key,
      label: r.label,
      booked: r.booked ?? '',
      change: r.proposed ?? '',
    })),
  );
}
