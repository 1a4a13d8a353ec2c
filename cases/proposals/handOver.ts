import { createHash } from 'node:crypto';
import { Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import type { z } from 'zod';
import { conflict, wrong } from '@/contracts/problem';
import type { handOverShape } from '@/contracts/questions';
import { numberOf, yearOf } from '@/core/calendar';
import { exponentOf, formatAmount } from '@/core/money';
import type { ProposedLine } from '@/core/proposedEntry';
import { LINE_COLUMNS } from '@/exchange/tables';
import { type Table, type Written, writeAds, writeCsv, writeXlsx } from '@/exchange/writers';
import type { ProposedRow } from '@/store/evidence';
import { updateProposed } from '@/store/proposed';
import { type Context, known } from '../asking/context';
import { headName, onRecord } from '../asking/onRecord';
import { require, type Viewer } from '../asking/viewer';
import { allSeenEvidence, seenPiece } from '../evidence/seenEvidence';
import { type BooksProposedIn, entriesOf, proposedIn, proposedNumber } from './lines';
import { linesOutside } from './shown';

type Asked = z.infer<z.ZodObject<typeof handOverShape>>;

const MEDIA = {
  csv: ['csv', 'text/csv; charset=utf-8'],
  xlsx: ['xlsx', 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet'],
  ads: ['txt', 'text/plain; charset=utf-8'],
} as const;

/**
 * Approved entries as a file of journal lines, for the ledger to book. They bear their own numbers, by which they are
 * known again, and each keeps the digest of the file that it left in.
 */
export async function handOver(ctx: Context, viewer: Viewer, { ids, entity, format }: Asked) {
  require(viewer, 'preparer', 'hand proposed entries over');
  const rows = ids
    ? await Promise.all(ids.map((id) => seenPiece(ctx, viewer, 'proposed', id)))
    : (await allSeenEvidence(ctx, viewer, 'proposed', entity ?? null)).filter(
        (row) => row.state === 'approved' && row.exported_at === null,
      );
  if (rows.length === 0)
    throw wrong('ids', 'no entry is approved that was not handed over yet; name those that you mean');
  const open = rows.find((row) => row.state !== 'approved');
  if (open) throw conflict(`${proposedNumber(open.id)} is ${open.state}; what leaves is approved first`);
  const all = await Promise.all(rows.map(async (row) => ({ row, books: await proposedIn(ctx, viewer, row.entity) })));
  for (const { row, books } of all)
    if (linesOutside(viewer, books, row.lines) > 0)
      throw conflict(`Lines of ${proposedNumber(row.id)} lie outside of what you may see`);
  const { catalogue } = await known(ctx.write);
  const dims = [...catalogue.dimensions.values()];
  const table: Table = {
    columns: [...COLUMNS, ...dims.map((d) => `dim:${d.code}`)],
    kind: LINE_COLUMNS,
    records: records(all),
  };
  const bytes = await buffer(
    format === 'csv'
      ? writeCsv(table)
      : format === 'xlsx'
        ? writeXlsx(table, 'lines')
        : writeAds(
            table,
            new Map(all.map(({ books }) => [books.entity.code, books.entity.currency])),
            new Map(dims.map((d) => [d.slot, d.code])),
          ),
  );
  const digest = createHash('sha256').update(bytes).digest('hex');
  const head = await onRecord(ctx, viewer, async (trx, record) => {
    for (const { row } of all) await updateProposed(trx, row.id, { exported_at: new Date(), exported_as: digest });
    return record('handed proposed entries over', `entities ${[...new Set(rows.map((r) => r.entity))].join(', ')}`, {
      ...{ proposed: rows.map((r) => r.id), format, digest },
    });
  });
  const [extension, mediaType] = MEDIA[format];
  return {
    stream: Readable.from(bytes),
    digest,
    mediaType,
    fileName: `proposed-entries-${headName(head)}.${extension}`,
  };
}

const COLUMNS = [
  ...['entity', 'entry', 'line', 'date', 'account', 'account_name', 'description', 'debit', 'credit', 'period', 'year'],
  ...['document', 'counterparty', 'tax_code', 'currency', 'currency_amount', 'entry_description'],
];

async function* records(all: readonly { row: ProposedRow; books: BooksProposedIn }[]): AsyncGenerator<Written> {
  for (const { row, books } of all)
    for (const { number, lines } of entriesOf(proposedNumber(row.id), row.lines))
      for (const [at, line] of lines.entries()) yield recordOf(books, number, row, line, at + 1);
}

function recordOf(
  { entity, digits }: BooksProposedIn,
  number: string,
  row: ProposedRow,
  line: ProposedLine,
  at: number,
): Written {
  const amount = formatAmount(Math.abs(line.amount), digits);
  return {
    ...{ entity: entity.code, entry: number, line: String(at), date: line.date, account: line.account },
    account_name: entity.accounts.get(line.account)?.name,
    description: line.description || row.title || number,
    ...{ debit: line.amount < 0 ? '' : amount, credit: line.amount < 0 ? amount : '' },
    ...{ period: String(numberOf(line.period)), year: String(yearOf(line.period)) },
    // By its number as the document of its lines it is known again, whatever number the ledger gives the entry.
    document: line.document ?? number,
    ...{ counterparty: line.counterparty, tax_code: line.taxCode },
    currency: line.inCurrency?.currency ?? entity.currency,
    currency_amount: line.inCurrency
      ? formatAmount(line.inCurrency.amount, exponentOf(line.inCurrency.currency))
      : formatAmount(line.amount, digits),
    entry_description: `${number} ${row.title || row.reason.slice(0, 120)}`,
    ...Object.fromEntries(Object.entries(line.dims).map(([dim, code]) => [`dim:${dim}`, code])),
  };
}
