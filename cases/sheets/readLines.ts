import { z } from 'zod';
import { wrong } from '@/contracts/problem';
import type { ScopeParams } from '@/contracts/scope';
import type { PartOfLines } from '@/contracts/traced';
import { periodText, yearOf } from '@/core/calendar';
import { isSort, SORTS } from '@/core/lineFields';
import { add, exponentOf, formatAmount, type Minor, perUnit } from '@/core/money';
import { otherSide } from '@/core/otherSide';
import { byDay } from '@/store/balances';
import type { CatalogueEntity } from '@/store/catalogue';
import type { LedgerKey, Sort } from '@/store/ledgerPlaces';
import { amountOfFirst, keyOf, ledgerPage, linesOfEntries, type StoredLine, sortedPage } from '@/store/lines';
import type { Context } from '../asking/context';
import { explainEmpty } from '../asking/explainEmpty';
import { tieOf } from '../asking/present';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { resolveFigure } from '../asking/resolveFigure';
import { seesWhole, type Viewer } from '../asking/viewer';
import { carriesOpening, type Openings, withoutOpening } from '../balances/carriedOpening';
import { ledgerTotal, sharedByPages } from '../balances/ledgerTotal';
import { lineMarker } from './lineMarks';
import { misplaced, usualOf } from './misplaced';
import { partOfAllLines, partOfEach } from './partsOfLines';
import { worthOfAll, worthOfEach } from './worthOfLines';

/** In another order than the ledger's the running balance is worked out line by line; beyond this it is left out. */
export const RUNNING_MAX = 200_000;

const ledgerPart = sharedByPages(partOfAllLines);
const ledgerWorth = sharedByPages(worthOfAll);

/** A question that was weighed, and where it is asked. */
type Asked = Awaited<ReturnType<ResolvedFigure['ask']>>;

interface LinesParams extends ScopeParams {
  sort?: string | undefined;
  limit: number;
  after?: string | undefined;
  at?: number | undefined;
  openings?: Openings | undefined;
  part?: PartOfLines | undefined;
}

/** A page of the lines of a figure, with opening and closing balance and the running balance of every line. */
export async function readLines(ctx: Context, viewer: Viewer, params: LinesParams) {
  const { in: wanted, ...own } = params;
  const asked = await resolveFigure(ctx, viewer, own);
  // Lines stand as they were booked; what they are worth in another currency stands beside.
  const shown =
    wanted === undefined || wanted === asked.currency
      ? null
      : await resolveFigure(ctx, viewer, params, { translates: true });
  if (shown && params.part) throw wrong('part', 'parts of lines are in the currency of the books');
  const sorts = readSorts(params.sort);
  const inLedgerOrder = sorts[0]?.by === 'date' && !sorts[0].descending && sorts.length === 1;
  const { digits } = asked;
  // In another order every line has to be read before the first can be shown.
  const lines = await asked.ask(ctx, inLedgerOrder ? [] : [{ by: 'entry' }]);
  const cursor = params.after === undefined ? null : readCursor(params.after);
  if (cursor && params.at !== undefined) throw wrong('at', 'give after or at, not both');
  const start = cursor?.index ?? params.at ?? 0;
  const pageIs = start === 0 ? 'first' : 'later';
  const [found, marked, usual] = await Promise.all([
    ledgerTotal(ctx, asked, pageIs),
    lineMarker(ctx, asked),
    inLedgerOrder ? usualOf(ctx, asked) : null,
  ]);
  const carries = carriesOpening(asked.figure, asked, params.openings);
  const whole = carries ? found : withoutOpening(found);
  const page =
    start >= whole.count
      ? { lines: [], running: [] }
      : inLedgerOrder
        ? await ledgerOrder(lines, whole.opening, start, params.limit, cursor?.key ?? null, cursor?.running ?? null)
        : await otherOrder(lines, whole, sorts, start, params.limit);
  const others: Awaited<ReturnType<typeof otherSides>> = seesWhole(viewer)
    ? await otherSides(lines, page.lines)
    : new Map();
  const partOf = params.part && partOfEach(asked, params.part);
  const part = params.part && (await ledgerPart(ctx, asked, pageIs, params.part));
  const worthOf = shown && (await worthOfEach(ctx, shown));
  const worth = shown && (await ledgerWorth(ctx, shown, pageIs, found.count));
  const odd = usual ? await misplaced(ctx, asked, usual, page.lines) : new Map<string, string[]>();
  const end = start + page.lines.length;
  // Where lines are missing from the store the end comes before the count says so.
  const ended = end >= whole.count || page.lines.length < params.limit;
  const text = (amount: Minor): string => formatAmount(amount, digits);
  const last = page.lines[page.lines.length - 1];
  return {
    sentence: (shown ?? asked).sentence,
    parts: (shown ?? asked).parts,
    address: (shown ?? asked).address,
    currency: asked.currency,
    load: asked.asOf,
    oneAccount: isOfOneAccount(asked),
    opening: text(whole.opening),
    ...(carries ? {} : { carries }),
    roll: text(whole.roll),
    closing: text(whole.closing),
    totals: {
      count: whole.count,
      debit: text(whole.debit),
      credit: text(whole.credit),
      movement: text(whole.movement),
    },
    ...(part === undefined ? {} : { part: part === null ? null : text(part) }),
    ...(shown && worth ? { worth: shownWorth(shown, worth, carries) } : {}),
    at: start,
    rows: page.lines.map((line, i) => {
      const places = odd.get(line.id) ?? [];
      return {
        ...shownLine(line, asked, page.running[i] ?? null, others.get(line.id) ?? []),
        ...(partOf ? { part: shownPart(partOf({ ...line, others: others.get(line.id) ?? [] }), text) } : {}),
        ...(shown && worthOf ? { worth: formatAmount(worthOf(line), shown.digits) } : {}),
        ...(places.length > 0 ? { outOfOrder: true } : {}),
        ...standsOut([...places, ...marked(line, others.get(line.id) ?? [])]),
      };
    }),
    ...(ended && inLedgerOrder
      ? { tie: lastTie(asked, whole, page.running.at(-1) ?? (start === 0 ? whole.opening : null)) }
      : {}),
    next:
      !ended && last
        ? writeCursor({
            index: end,
            running: page.running[page.running.length - 1] ?? null,
            key: inLedgerOrder ? keyOf(last) : null,
          })
        : null,
    ...(whole.count === 0 ? { empty: explainEmpty(asked) } : {}),
  };
}

const standsOut = (reasons: string[]): { standsOut?: string[] } => (reasons.length > 0 ? { standsOut: reasons } : {});

const shownPart = (part: Minor | null, text: (amount: Minor) => string): string | null =>
  part === null ? null : text(part);

/** What lines come to in another currency: every part of it, so that whoever adds them up comes to the closing. */
function shownWorth(
  { currency, digits }: ResolvedFigure,
  { whole, lines }: Awaited<ReturnType<typeof worthOfAll>>,
  carries: boolean,
) {
  const text = (amount: Minor): string => formatAmount(amount, digits);
  const { opening, movement, roll, closing } = carries ? whole : withoutOpening(whole);
  return {
    currency,
    opening: text(opening),
    lines: lines === null ? null : text(lines),
    byRates: lines === null ? null : text(add(movement, -lines)),
    movement: text(movement),
    roll: text(roll),
    closing: text(closing),
  };
}

/** Whether all lines are of one account, in whichever books they are. */
export function isOfOneAccount({ books }: ResolvedFigure): boolean {
  const codes = new Set<string>();
  for (const { own, entity } of books) {
    if (own === null) return false;
    for (const id of own) {
      const account = entity.accountOf.get(id);
      if (account?.posting) codes.add(account.code);
    }
  }
  return codes.size === 1;
}

/** What running balances reached at the last line must be the closing balance, but for years rolled over. */
function lastTie({ digits }: ResolvedFigure, whole: Parameters<typeof tieOf>[0], running: Minor | null) {
  // Without running balances there is nothing to hold the closing balance against.
  if (running === null) return null;
  return tieOf(whole, { ...whole, closing: add(running, whole.roll) }, digits);
}

async function ledgerOrder(
  { db, question }: Asked,
  opening: Minor,
  start: number,
  limit: number,
  key: LedgerKey | null,
  runningBefore: Minor | null,
) {
  let running: Minor;
  let lines: StoredLine[];
  if (key !== null && runningBefore !== null) {
    running = runningBefore;
    lines = await ledgerPage(db, question, { after: key }, limit);
  } else if (start === 0) {
    running = opening;
    lines = await ledgerPage(db, question, { offset: 0, day: null }, limit);
  } else {
    const jump = jumpTo(await byDay(db, question), start);
    running = add(add(opening, jump.amount), await amountOfFirst(db, question, jump.day, jump.skip));
    lines = await ledgerPage(db, question, { offset: jump.skip, day: jump.day }, limit);
  }
  const balances = lines.map((line) => {
    running = add(running, line.amount);
    return running;
  });
  return { lines, running: balances as (Minor | null)[] };
}

/** Lines of a ledger from a row on, in its order. */
export async function ledgerRows({ db, question }: Asked, from: number, limit: number): Promise<StoredLine[]> {
  if (from === 0) return ledgerPage(db, question, { offset: 0, day: null }, limit);
  const { day, skip } = jumpTo(await byDay(db, question), from);
  return ledgerPage(db, question, { offset: skip, day }, limit);
}

/** The day in which a row is, what was booked before that day, and how many of its lines come before the row. */
function jumpTo(days: { day: string; count: number; amount: Minor }[], row: number) {
  let before = 0;
  let amount: Minor = 0;
  for (const { day, count, amount: booked } of days) {
    if (before + count > row) return { day, amount, skip: row - before };
    before += count;
    amount = add(amount, booked);
  }
  return { day: '9999-12-31', amount, skip: 0 };
}

async function otherOrder(
  { db, question }: Asked,
  whole: { count: number; opening: Minor },
  sorts: Sort[],
  start: number,
  limit: number,
) {
  const rows = await sortedPage(db, question, sorts, start, limit, whole.count <= RUNNING_MAX);
  return {
    lines: rows.map((r) => r.line),
    running: rows.map((r) => (r.running === null ? null : add(whole.opening, r.running))),
  };
}

/** For each line, the accounts in which its other side is. */
async function otherSides({ db, question }: Asked, lines: StoredLine[]) {
  const entries = new Map<number, StoredLine[]>();
  const all =
    lines.length === 0
      ? []
      : await linesOfEntries(db, question, [...new Set(lines.map((l) => l.entryId))], question.asOf);
  for (const line of all) entries.set(line.entryId, [...(entries.get(line.entryId) ?? []), line]);
  return new Map(lines.map((line) => [line.id, otherSide(entries.get(line.entryId) ?? [], new Set([line.id]))]));
}

/** An entry's id in addresses: told apart from entry numbers, which are often digits too. */
export const entryKey = (id: number): string => `e${id}`;

/** What a line is that was not booked: of the cash basis, or of a set of proposed entries. */
function besideBooks(entity: CatalogueEntity | undefined, books: number): { onCashBasis?: true; proposedIn?: string } {
  if (!entity || entity.id === books) return {};
  const [set] = [...entity.proposed].find(([, kept]) => kept === books) ?? [];
  return set === undefined ? { onCashBasis: true } : { proposedIn: set };
}

export function shownLine(
  line: StoredLine,
  asked: ResolvedFigure,
  running: Minor | null,
  others: { account: string; amount: Minor; exact: boolean }[],
) {
  const { digits, entities } = asked;
  const named = (code: string): string =>
    entities.find((e) => e.code === line.entity)?.accounts.get(code)?.name ?? code;
  const text = (amount: Minor): string => formatAmount(amount, digits);
  const ranked = [...others].sort((a, b) => Math.abs(b.amount) - Math.abs(a.amount));
  const { catalogue } = asked.known;
  return {
    id: line.id,
    entity: line.entity,
    entry: line.entry,
    entryId: entryKey(line.entryId),
    line: line.line,
    date: line.postingDate,
    period: periodText(line.period),
    account: line.account,
    accountName: named(line.account),
    debit: line.side === 'debit' ? text(line.amount) : text(0),
    credit: line.side === 'credit' ? text(0 - line.amount) : text(0),
    amount: text(line.amount),
    running: running === null ? null : text(running),
    description: line.description,
    entryDescription: line.entryDescription,
    journal: line.journal,
    document: line.document,
    counterparty: line.counterparty,
    counterpartyName: line.counterpartyName,
    postedBy: line.postedBy,
    enteredAt: line.enteredAt,
    approvedBy: line.approvedBy,
    reversalOf: line.reversalOf,
    source: line.source,
    status: line.status,
    kind: line.kind,
    currency: line.currency,
    currencyAmount:
      line.currencyAmount === null
        ? null
        : formatAmount(line.currencyAmount, exponentOf(line.currency ?? asked.currency)),
    quantity: line.quantity,
    unit: line.unit,
    unitPrice: unitPriceOf(line, digits),
    dims: Object.entries(line.members).map(([dimension, code]) => ({
      dimension,
      dimensionName: catalogue.dimensions.get(dimension)?.name ?? dimension,
      code,
      name: catalogue.trees.get(dimension)?.get(code)?.name ?? code,
    })),
    extra: line.extra ?? {},
    load: line.load,
    ...(isOutsidePeriod(line, asked) ? { outsidePeriod: true } : {}),
    ...besideBooks(
      entities.find((e) => e.code === line.entity),
      line.books,
    ),
    otherSide: ranked
      .slice(0, 3)
      .map((o) => ({ account: o.account, name: named(o.account), amount: text(o.amount), exact: o.exact })),
    otherSideMore: Math.max(0, ranked.length - 3),
  };
}

/** Whether a line is dated outside of the period that its source gave it; what adjusts a year is dated at its end. */
function isOutsidePeriod(line: StoredLine, { books }: ResolvedFigure): boolean {
  const calendar = books.find((e) => e.entity.code === line.entity)?.calendar;
  const period = calendar?.periodsOf(yearOf(line.period)).find((p) => p.ordinal === line.period);
  if (!period || period.adjustment) return false;
  return line.postingDate < period.from || line.postingDate > period.to;
}

function unitPriceOf(line: StoredLine, digits: number): string | null {
  const price = line.quantity === null ? null : perUnit(line.amount, line.quantity);
  return price === null ? null : formatAmount(Math.abs(price), digits);
}

export function readSorts(text: string | undefined): Sort[] {
  return (text ?? 'date').split(',').map((word) => {
    const by = word.replace(/^-/, '');
    if (!isSort(by)) throw wrong('sort', `there is no order “${word}”; it is one of ${SORTS.join(', ')}`);
    return { by, descending: word.startsWith('-') };
  });
}

const cursorShape = z.object({
  index: z.number().int().min(0),
  running: z.number().int().nullable(),
  key: z
    .object({ day: z.string(), entryNumber: z.string(), entity: z.number(), entry: z.number(), line: z.number() })
    .nullable(),
});

function readCursor(text: string): z.infer<typeof cursorShape> {
  try {
    return cursorShape.parse(JSON.parse(Buffer.from(text, 'base64url').toString()));
  } catch {
    throw wrong('after', 'this is no place in a list; begin again without after');
  }
}

const writeCursor = (cursor: z.infer<typeof cursorShape>): string =>
  Buffer.from(JSON.stringify(cursor)).toString('base64url');
