import { ProblemError } from '@/contracts/problem';
import type { QueryOf } from '@/contracts/routes';
import { lineSubject } from '@/contracts/subject';
import type { Leaf, LeafColumn, LeafRow } from '@/core/leaf';
import { add, type Minor } from '@/core/money';
import { amountOf } from '@/core/sheet';
import { type StoredLine, sortedPage } from '@/store/lines';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { resolveFigure } from '../asking/resolveFigure';
import { spokenCount } from '../asking/spokenNumbers';
import type { Viewer } from '../asking/viewer';
import { figureTotal } from '../balances/accountBalances';
import { carriesOpening, withoutOpening } from '../balances/carriedOpening';
import { linesOfFigure } from '../balances/linesOfFigure';
import { isOfOneAccount, RUNNING_MAX, readSorts } from '../sheets/readLines';
import { worthOfEach } from '../sheets/worthOfLines';
import { amountColumn, factsOf, proofWords, textColumn } from './parts';

const SORTED_PAGE = 20_000;

/** A ledger as it leaves: every line of it, however many, with the balance after each. */
export async function linesLeaf(ctx: Context, viewer: Viewer, query: QueryOf<'GET /lines'>): Promise<Leaf> {
  const { in: wanted, part: _part, ...own } = query;
  const asked = await resolveFigure(ctx, viewer, own);
  const worthIn =
    wanted === undefined || wanted === asked.currency
      ? null
      : await resolveFigure(ctx, viewer, { ...own, in: wanted }, { translates: true });
  const worthOf = worthIn && (await worthOfEach(ctx, worthIn));
  const found = await figureTotal(ctx, asked);
  const whole = carriesOpening(asked.figure, asked, query.openings) ? found : withoutOpening(found);
  const inOrder = (query.sort ?? 'date') === 'date';
  if (!inOrder && whole.count > RUNNING_MAX)
    throw new ProblemError(422, `In another order than the ledger’s at most ${spokenCount(RUNNING_MAX)} lines leave`, [
      { path: 'sort', message: 'leave sort out, or narrow the scope' },
    ]);
  const oneAccount = isOfOneAccount(asked);
  const { dimensions } = asked.known.catalogue;
  const dims = [...dimensions.values()].map(({ code, name }) => ({
    ...textColumn(`dim:${code}`, name, 12),
    on: 'file' as const,
  }));
  const columns: LeafColumn[] = [
    textColumn('date', 'Date', 11, 'date'),
    textColumn('entry', 'Entry', 14),
    { ...textColumn('line', 'Line', 5), is: 'count', on: 'file' },
    ...(asked.entities.length > 1 ? [textColumn('entity', 'Company', 9)] : []),
    ...(oneAccount ? [] : [textColumn('account', 'Account', 9), textColumn('accountName', 'Name', 26)]),
    textColumn('description', 'Description', 34),
    textColumn('document', 'Document', 14),
    textColumn('counterparty', 'Party', 22),
    ...dims,
    ...(dims.length > 0 ? [{ ...textColumn('coding', 'Coding', 16), on: 'paper' as const }] : []),
    amountColumn('debit', 'Debit', asked.digits),
    amountColumn('credit', 'Credit', asked.digits),
    ...(worthIn ? [amountColumn('worth', `In ${worthIn.currency}`, worthIn.digits, false)] : []),
    { ...amountColumn('balance', 'Balance', asked.digits, false), runs: true },
  ];
  const rowOf = (line: StoredLine, running: Minor): LeafRow => ({
    key: String(line.id),
    depth: 0,
    look: 'plain',
    counts: true,
    sums: null,
    cells: {
      date: line.postingDate,
      entry: line.entry,
      line: { is: 'count', count: line.line },
      entity: line.entity,
      account: line.account,
      accountName: asked.entities.find((e) => e.code === line.entity)?.accounts.get(line.account)?.name ?? '',
      description: line.description,
      document: line.document,
      counterparty: line.counterpartyName ?? line.counterparty,
      ...Object.fromEntries(Object.entries(line.members).map(([dim, code]) => [`dim:${dim}`, code])),
      coding: Object.values(line.members).join(' · '),
      debit: line.side === 'debit' ? amountOf(line.amount) : null,
      credit: line.side === 'credit' ? amountOf(0 - line.amount) : null,
      worth: worthOf ? amountOf(worthOf(line)) : null,
      balance: amountOf(running),
    },
    subject: lineSubject(line),
    behind: null,
  });
  let ended: Minor | null = null;
  const rows = async function* (): AsyncGenerator<LeafRow> {
    if (whole.opening !== 0) yield before('Opening balance', whole.opening);
    if (inOrder) {
      let running = whole.opening;
      for await (const line of linesOfFigure(ctx.work, asked)) {
        running = add(running, line.amount);
        yield rowOf(line, running);
      }
      ended = running;
    } else yield* sorted(ctx, asked, query.sort ?? '', whole, rowOf);
    if (whole.roll !== 0) yield before('Rolled over at the end of a year', whole.closing);
  };
  return {
    title: oneAccount ? 'Account ledger' : 'Journal lines',
    sentence: (worthIn ?? asked).sentence,
    facts: factsOf(asked),
    columns,
    rows: rows(),
    total: {
      label: 'Total',
      cells: {
        description: `${spokenCount(whole.count)} ${whole.count === 1 ? 'line' : 'lines'}, closing balance`,
        debit: amountOf(whole.debit),
        credit: amountOf(whole.credit),
        balance: amountOf(whole.closing),
      },
    },
    proofs: () => {
      if (ended === null) return [];
      const off = add(add(ended, whole.roll), -whole.closing);
      return [proofWords({ ok: off === 0, off }, 'the balance after the last line is the closing balance', asked)];
    },
    address: `/lines?${asked.address}`,
  };
}

/** A row of the ledger that is no line. */
const before = (says: string, balance: Minor): LeafRow => ({
  key: says,
  depth: 0,
  look: 'subtotal',
  counts: false,
  sums: null,
  cells: { description: says, balance: amountOf(balance) },
  subject: null,
  behind: null,
});

async function* sorted(
  ctx: Context,
  asked: ResolvedFigure,
  sort: string,
  whole: { count: number; opening: Minor },
  rowOf: (line: StoredLine, running: Minor) => LeafRow,
): AsyncGenerator<LeafRow> {
  const sorts = readSorts(sort);
  for (let start = 0; start < whole.count; start += SORTED_PAGE) {
    const { db, question } = await asked.ask(ctx, [{ by: 'entry' }]);
    for (const { line, running } of await sortedPage(db, question, sorts, start, SORTED_PAGE, true))
      yield rowOf(line, add(whole.opening, running ?? 0));
  }
}
