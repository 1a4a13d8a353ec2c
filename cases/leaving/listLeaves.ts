import type { QueryOf } from '@/contracts/routes';
import type { Leaf, LeafCell, LeafColumn, LeafRow } from '@/core/leaf';
import { exponentOf } from '@/core/money';
import type { Context } from '../asking/context';
import type { Viewer } from '../asking/viewer';
import { readRegister } from '../documents/documentRegister';
import { openDocuments } from '../documents/openDocuments';
import { misstatements } from '../proposals/misstatements';
import { readHits } from '../tests/hits';
import { amountColumn, textColumn } from './parts';

/** Lists of what is no figure: their amounts leave as they were told, to the last unit. */

const PAGE = 1_000;

const exact = (text: string | null | undefined): LeafCell => (text == null ? null : { is: 'exact', text });
const many = (count: number): LeafCell => ({ is: 'count', count });

const row = (key: string, cells: LeafRow['cells'], more: Partial<LeafRow> = {}): LeafRow => ({
  ...{ key, depth: 0, look: 'plain', counts: true, sums: null, cells, subject: null, behind: null },
  ...more,
});

const countColumn = (key: string, label: string, width: number): LeafColumn => ({
  ...textColumn(key, label, width),
  is: 'count',
});

/** Every page of a list, from its first on. */
async function* pagesFrom<Page extends { next: number | null }>(
  first: Page,
  ask: (after: number) => Promise<Page>,
): AsyncGenerator<Page> {
  yield first;
  for (let { next } = first; next !== null; ) {
    const page = await ask(next);
    yield page;
    next = page.next;
  }
}

/** Open documents by age, each with how long it is due. */
export async function openDocumentsLeaf(ctx: Context, viewer: Viewer, query: QueryOf<'GET /documents'>): Promise<Leaf> {
  const found = await openDocuments(ctx, viewer, query);
  const digits = exponentOf(found.currency);
  return {
    title: 'Open documents',
    sentence: found.sentence,
    facts: [
      ['Company', found.entity],
      ['Currency', found.currency],
      ['At', found.at],
    ],
    columns: [
      textColumn('account', 'Account', 9),
      textColumn('document', 'Document', 14),
      textColumn('type', 'Kind', 14),
      textColumn('date', 'Date', 11, 'date'),
      textColumn('due', 'Due', 11, 'date'),
      countColumn('past', 'Days past', 9),
      textColumn('party', 'Party', 12),
      textColumn('name', 'Name', 28),
      textColumn('description', 'Description', 28),
      amountColumn('amount', 'Amount', digits, false),
      amountColumn('open', 'Open', digits, false),
    ],
    rows: found.rows.map((d) =>
      row(`${d.account} ${d.number}`, {
        ...{
          account: d.account,
          document: d.number,
          type: d.type,
          date: d.date,
          due: d.dueDate,
          past: many(d.daysPast),
        },
        ...{ party: d.counterparty, name: d.counterpartyName ?? '', description: d.description },
        ...{ amount: exact(d.amount), open: exact(d.open) },
      }),
    ),
    total: null,
    proofs: () =>
      found.accounts.map(({ account, open, ledger, tie }) =>
        tie.ok
          ? `the documents on ${account} come to the ledger, ${ledger}`
          : `the documents on ${account} come to ${open}, the ledger to ${ledger}`,
      ),
    address: `/documents?${found.address}`,
  };
}

/** Every document of a company, booked or not. */
export async function registerLeaf(
  ctx: Context,
  viewer: Viewer,
  query: QueryOf<'GET /document-register'>,
): Promise<Leaf> {
  const ask = (after: number) => readRegister(ctx, viewer, { ...query, limit: PAGE, after });
  const first = await ask(0);
  const digits = exponentOf(first.rows[0]?.currency ?? 'EUR');
  const rows = async function* (): AsyncGenerator<LeafRow> {
    for await (const page of pagesFrom(first, ask))
      for (const d of page.rows)
        yield row(d.number, {
          ...{ document: d.number, type: d.type, date: d.date, due: d.dueDate, party: d.counterparty },
          ...{ name: d.counterpartyName ?? '', description: d.description, state: d.state, currency: d.currency },
          ...{ amount: exact(d.amount), value: exact(d.value), open: exact(d.open) },
          lines: d.lines === null ? null : many(d.lines),
        });
  };
  return {
    title: 'Documents',
    sentence: `${first.count} documents of ${first.entity}`,
    facts: [
      ['Company', first.entity],
      ['As of load', String(first.load)],
    ],
    columns: [
      textColumn('document', 'Document', 14),
      textColumn('type', 'Kind', 14),
      textColumn('date', 'Date', 11, 'date'),
      textColumn('due', 'Due', 11, 'date'),
      textColumn('party', 'Party', 12),
      textColumn('name', 'Name', 28),
      textColumn('description', 'Description', 28),
      textColumn('state', 'State', 14),
      textColumn('currency', '', 5),
      amountColumn('amount', 'Amount', digits, false),
      amountColumn('value', 'With changes', digits, false),
      amountColumn('open', 'Open', digits, false),
      countColumn('lines', 'Lines', 7),
    ],
    rows: rows(),
    total: null,
    proofs: () => [],
    address: `/documents/all?entity=${encodeURIComponent(first.entity)}`,
  };
}

/** What tests found, with the reasons and what was said of it. */
export async function hitsLeaf(
  ctx: Context,
  viewer: Viewer,
  run: number,
  query: QueryOf<'GET /test-runs/{id}/hits'>,
): Promise<Leaf> {
  const ask = (after: number) => readHits(ctx, viewer, run, { ...query, limit: PAGE, after });
  const first = await ask(0);
  const rows = async function* (): AsyncGenerator<LeafRow> {
    for await (const page of pagesFrom(first, ask))
      for (const h of page.hits)
        yield row(h.key, {
          ...{ score: String(h.score), name: h.what, description: h.reason, test: h.name, entity: h.entity },
          ...{
            currency: h.currency,
            amount: exact(h.amount),
            lines: many(h.lines),
            entry: h.entry,
            account: h.account,
          },
          ...{ party: h.party, person: h.person, day: h.day },
          judged: h.judgement ? `${h.judgement.judgement}: ${h.judgement.note} (${h.judgement.by})` : '',
        });
  };
  return {
    title: `What tests found, run ${run}`,
    sentence: `Hits of run ${run}, the most unusual first`,
    facts: [['Run of tests', String(run)]],
    columns: [
      textColumn('score', 'Score', 7),
      textColumn('name', 'What', 30),
      textColumn('description', 'Why', 46),
      textColumn('test', 'Test', 22),
      textColumn('entity', 'Company', 9),
      textColumn('entry', 'Entry', 14),
      textColumn('account', 'Account', 9),
      textColumn('party', 'Party', 12),
      textColumn('person', 'Person', 12),
      textColumn('day', 'Day', 11, 'date'),
      textColumn('currency', '', 5),
      amountColumn('amount', 'Amount', exponentOf(first.hits[0]?.currency ?? 'EUR'), false),
      countColumn('lines', 'Lines', 7),
      textColumn('judged', 'Judged', 30),
    ],
    rows: rows(),
    total: null,
    proofs: () => [],
    address: `/hits?run=${run}`,
  };
}

const WORDS = { factual: 'Factual', judgemental: 'Judgemental', projected: 'Projected' } as Record<string, string>;
const EFFECTS = ['assets', 'liabilities', 'equity', 'income', 'expense', 'result', 'tax'] as const;

/** Misstatements as they go to those charged with governance: corrected and not, and how they stand to what is material. */
export async function misstatementsLeaf(
  ctx: Context,
  viewer: Viewer,
  query: QueryOf<'GET /misstatements'>,
): Promise<Leaf> {
  const found = await misstatements(ctx, viewer, query);
  const digits = exponentOf(found.currency);
  type Effect = (typeof found.groups)[number]['total'];
  const effects = (effect: Effect): LeafRow['cells'] =>
    Object.fromEntries(EFFECTS.map((name) => [name, exact(effect[name])]));
  const rows = found.groups.flatMap((group): LeafRow[] => [
    row(
      `${group.is} ${group.kind}`,
      { name: `${group.is === 'corrected' ? 'Corrected' : 'Uncorrected'}: ${WORDS[group.kind] ?? group.kind}` },
      { look: 'heading', counts: false },
    ),
    ...group.rows.map((r) =>
      row(
        String(r.id),
        {
          ...{
            number: r.number,
            name: r.title,
            description: r.waivedBy ? `${r.reason}; left by ${r.waivedBy}` : r.reason,
          },
          ...{ ...effects(r.effect), rollover: exact(r.rollover), curtain: exact(r.ironCurtain) },
        },
        { depth: 1 },
      ),
    ),
    row(
      `${group.is} ${group.kind} total`,
      { name: 'Together', ...effects(group.total) },
      { look: 'subtotal', counts: false },
    ),
  ]);
  const { uncorrected, materiality } = found;
  return {
    title: 'Summary of misstatements',
    sentence: `${found.entityName}, ${found.from} to ${found.to}, in ${found.currency}`,
    facts: [
      ['Company', `${found.entity} ${found.entityName}`],
      ['Currency', found.currency],
      ['As of load', String(found.load)],
      ...(materiality
        ? ([
            ['Material overall', materiality.overall],
            ['Performance', materiality.performance],
            ['Clearly trivial', materiality.trivial],
          ] as [string, string][])
        : []),
    ],
    columns: [
      textColumn('number', 'Entry', 9),
      textColumn('name', 'What', 30),
      textColumn('description', 'Why', 34),
      ...EFFECTS.map((name) => amountColumn(name, name.charAt(0).toUpperCase() + name.slice(1), digits, false)),
      amountColumn('rollover', 'Rollover', digits, false),
      amountColumn('curtain', 'Iron curtain', digits, false),
    ],
    rows: [
      ...rows,
      row(
        'uncorrected',
        {
          ...{ name: 'All that is uncorrected', ...effects(uncorrected.effect) },
          ...{ rollover: exact(uncorrected.rollover), curtain: exact(uncorrected.ironCurtain) },
        },
        { look: 'total', counts: false },
      ),
    ],
    total: null,
    proofs: () => [
      `what is uncorrected is ${found.verdict === 'not set' ? 'not weighed: nothing was said to be material' : found.verdict}`,
    ],
    address: `/proposals/misstatements?entity=${encodeURIComponent(found.entity)}`,
  };
}
