import type { Readable } from 'node:stream';
import { wrong } from '@/contracts/problem';
import type { EXPORT_FORMATS } from '@/contracts/questions';
import type { ScopeParams } from '@/contracts/scope';
import { subjectText } from '@/contracts/subject';
import { emptyBalance } from '@/core/balances';
import { calendar, numberOf, type Ordinal, yearOf } from '@/core/calendar';
import { languagesOf } from '@/core/ledger';
import { LINE_FIELDS, type LineField } from '@/core/lineFields';
import { add, exponentOf, formatAmount } from '@/core/money';
import { type PartySide, type SaftHead, writeSaft } from '@/exchange/saftWriter';
import { ACCOUNT_COLUMNS, DIMENSION_COLUMNS, LINE_COLUMNS } from '@/exchange/tables';
import { type Table, type Written, writeAds, writeCsv, writeFec, writeJson, writeXlsx } from '@/exchange/writers';
import type { StoredLine } from '@/store/lines';
import { readParties } from '@/store/parties';
import type { Head } from '@/store/record';
import type { Context } from '../asking/context';
import { headName, onRecord } from '../asking/onRecord';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { resolveFigure } from '../asking/resolveFigure';
import type { Viewer } from '../asking/viewer';
import { knownMembers, seesWhole } from '../asking/viewer';
import { balancesByAccount } from '../balances/accountBalances';
import { linesOfFigure } from '../balances/linesOfFigure';
import { seenAccounts, seenMembers } from '../charts/seenChart';
import { legendOf, type TicksOn, ticksOn } from './ticksOn';

export type ExportFormat = (typeof EXPORT_FORMATS)[number];

export interface Exported {
  stream: Readable;
  fileName: string;
  mediaType: string;
  /** The record's head with the entry of this export. */
  head: Head;
}

const MEDIA: Record<ExportFormat, [extension: string, mediaType: string]> = {
  csv: ['csv', 'text/csv; charset=utf-8'],
  xlsx: ['xlsx', 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet'],
  json: ['json', 'application/json'],
  ndjson: ['ndjson', 'application/x-ndjson'],
  saft: ['xml', 'application/xml'],
  fec: ['txt', 'text/plain; charset=utf-8'],
  ads: ['txt', 'text/plain; charset=utf-8'],
};

/** Lines of a scope, a chart of accounts or the dimensions in an open format, streamed, so that reading it back gives the same. */
export async function exportData(
  ctx: Context,
  viewer: Viewer,
  params: ScopeParams & {
    what: 'lines' | 'accounts' | 'dimensions';
    format: ExportFormat;
    ticks?: 'with' | 'without';
  },
): Promise<Exported> {
  const { what, format, ticks = 'without', ...scope } = params;
  if (ticks === 'with' && (what !== 'lines' || !TICKED.includes(format)))
    throw wrong('ticks', `ticks go with lines, as ${TICKED.join(', ')}`);
  const wide: ScopeParams = {
    ...scope,
    ...(scope.from || scope.to || scope.window ? {} : { window: 'everything' as const }),
  };
  // A chart and members hold no amounts that currencies could keep apart.
  const asked = await resolveFigure(ctx, viewer, wide, { translates: what !== 'lines' });
  const [extension, mediaType] = MEDIA[format];
  const stream = await streamOf(
    ctx,
    asked,
    what,
    format,
    ticks === 'with' ? await ticksOn(ctx, asked.figure.entities) : null,
  );
  const head = await onRecord(ctx, viewer, (_, record) =>
    record('exported', subjectText({ is: 'figure', address: asked.address }), {
      what,
      format,
      ...(ticks === 'with' ? { ticks } : {}),
      load: asked.figure.load ?? asked.known.newest,
    }),
  );
  // The file bears the entry that tells of it, and so how far the record went then: formats have no room for it inside.
  const fileName = `${what}-${asked.figure.entities.join('-')}-${headName(head)}.${extension}`;
  return { stream, fileName, mediaType, head };
}

/** Formats that have room for a column of their own. */
const TICKED: readonly ExportFormat[] = ['csv', 'xlsx', 'json', 'ndjson'];

async function streamOf(
  ctx: Context,
  asked: ResolvedFigure,
  what: 'lines' | 'accounts' | 'dimensions',
  format: ExportFormat,
  ticks: TicksOn | null,
): Promise<Readable> {
  const table =
    what === 'lines'
      ? await lineTable(ctx, asked, ticks)
      : what === 'accounts'
        ? await accountTable(ctx, asked)
        : await memberTable(ctx, asked);
  switch (format) {
    case 'csv':
      return writeCsv(table);
    case 'xlsx':
      return writeXlsx(table, what, ticks === null ? null : legendOf(ticks));
    case 'json':
      return writeJson(table, what === 'dimensions' ? 'members' : what);
    case 'ndjson':
      return writeJson(table, null);
  }
  if (what !== 'lines') throw wrong('format', `${format} holds journal lines only; take csv, xlsx or json`);
  const slots = new Map([...asked.known.catalogue.dimensions.values()].map((d) => [d.slot, d.code]));
  if (format === 'ads') return writeAds(table, new Map(asked.entities.map((e) => [e.code, e.currency])), slots);
  if (asked.entities.length !== 1) throw wrong('entity', 'this format holds the books of one entity; name one');
  return format === 'fec' ? writeFec(table) : writeSaft(await saftHead(ctx, asked), table.records);
}

/** Lines of a figure as the records of a file, and each beside the line that it is of. */
export async function lineTable(
  ctx: Context,
  asked: ResolvedFigure,
  ticks: TicksOn | null,
): Promise<Table & { lines: AsyncIterable<{ line: StoredLine; record: Written }> }> {
  const dims = [...asked.known.catalogue.dimensions.keys()].map((code) => `dim:${code}`);
  const columns = [
    ...LINE_COLUMNS.known.filter((c) => c !== 'amount' && c !== 'side' && c !== 'account_type'),
    ...dims,
    ...(ticks === null ? [] : ['ticks']),
  ];
  const lines = async function* (): AsyncGenerator<{ line: StoredLine; record: Written }> {
    for await (const line of allLines(ctx, asked))
      yield { line, record: { ...recordOf(line, asked), ...(ticks === null ? {} : { ticks: ticks.of(line) }) } };
  };
  const records = async function* (): AsyncGenerator<Written> {
    for await (const { record } of lines()) yield record;
  };
  return { columns, kind: LINE_COLUMNS, records: records(), lines: lines() };
}

/** Every line of the scope, openings too, in ledger order. */
export const allLines = (ctx: Context, asked: ResolvedFigure): AsyncGenerator<StoredLine> =>
  linesOfFigure(ctx.work, asked, { openings: true });

function recordOf(l: StoredLine, asked: ResolvedFigure): Written {
  const entity = asked.known.catalogue.entities.get(l.entity);
  const digits = exponentOf(entity?.currency ?? asked.currency);
  const amount = formatAmount(Math.abs(l.amount), digits);
  const signed = (l.side === 'debit') === l.amount >= 0 || l.amount === 0 ? amount : `-${amount}`;
  const own: Partial<Record<string, string | number | null>> = {
    ...l,
    extra: null,
    members: null,
    period: numberOf(l.period),
    amount: null,
    currencyAmount: l.currencyAmount === null ? null : formatAmount(l.currencyAmount, exponentOf(l.currency ?? 'XXX')),
  };
  const fields = LINE_FIELDS.flatMap(({ name, file }: LineField): [string, string | null][] => {
    const value = own[name] ?? null;
    return file === null ? [] : [[file, value === null ? null : String(value)]];
  });
  return {
    ...Object.fromEntries(fields),
    account_name: entity?.accounts.get(l.account)?.name,
    debit: l.side === 'debit' ? signed : '',
    credit: l.side === 'credit' ? signed : '',
    year: String(yearOf(l.period)),
    counterparty_name: l.counterpartyName,
    ...Object.fromEntries(Object.entries(l.members).map(([dim, code]) => [`dim:${dim}`, code])),
  };
}

async function accountTable(ctx: Context, asked: ResolvedFigure): Promise<Table> {
  const accounts = (
    await Promise.all(
      asked.entities.map(async (e) => (await seenAccounts(ctx, asked.viewer, e)).map((a) => ({ ...a, of: e.code }))),
    )
  ).flat();
  const open = (prefix: string, of: (a: (typeof accounts)[number]) => object): string[] =>
    [...new Set(accounts.flatMap((a) => Object.keys(of(a))))].sort().map((k) => `${prefix}:${k}`);
  const columns = [
    ...ACCOUNT_COLUMNS.known,
    ...open('name', (a) => a.names),
    ...open('code', (a) => a.codes),
    ...open('dim', (a) => a.dim_rules),
  ];
  const records = async function* (): AsyncGenerator<Written> {
    for (const a of accounts) {
      yield {
        entity: a.of,
        code: a.code,
        name: a.name,
        type: a.type,
        parent: a.parent,
        posting: a.posting ? 'yes' : 'no',
        status: a.status,
        normal: a.normal,
        flow: a.flow,
        group: a.groups.join(';'),
        classification: a.classification,
        currency: a.currency,
        created_at: a.created_at,
        created_by: a.created_by,
        ...keyed('name', a.names),
        ...keyed('code', a.codes),
        ...keyed('dim', a.dim_rules),
      };
    }
  };
  return { columns, kind: ACCOUNT_COLUMNS, records: records() };
}

async function memberTable(ctx: Context, asked: ResolvedFigure): Promise<Table> {
  const rows = await seenMembers(ctx, asked.viewer, asked.known);
  const languages = languagesOf(rows).map((l) => `name:${l}`);
  const columns = [...DIMENSION_COLUMNS.known.filter((c) => c !== 'entity'), ...languages];
  const records = async function* (): AsyncGenerator<Written> {
    for (const d of asked.known.catalogue.dimensions.values()) {
      yield { dimension: d.code, name: d.name };
      for (const m of rows.filter((r) => r.dimension === d.id)) {
        yield {
          dimension: d.code,
          code: m.code,
          name: m.name,
          parent: m.parent,
          valid_from: m.valid_from,
          valid_to: m.valid_to,
          group: m.groups.join(';'),
          ...keyed('name', m.names),
        };
      }
    }
  };
  return { columns, kind: DIMENSION_COLUMNS, records: records() };
}

const keyed = (prefix: string, values: Record<string, string>): Written =>
  Object.fromEntries(Object.entries(values).map(([k, v]) => [`${prefix}:${k}`, v]));

async function saftHead(ctx: Context, asked: ResolvedFigure): Promise<SaftHead> {
  const [entity] = asked.entities;
  if (!entity) throw wrong('entity', 'name an entity');
  const digits = exponentOf(entity.currency);
  const chart = (await seenAccounts(ctx, asked.viewer, entity)).filter((a) => a.posting);
  const balances = await balancesByAccount(ctx, asked);
  let [entries, debit, credit] = [0, 0, 0];
  const seen = new Set<string>();
  const known = new Map((await readParties(ctx.read)).map((p) => [p.code, p]));
  // Whoever is no one thing by its own record is what the account of the line says: what is owed to us and what is
  // earned is of a customer.
  const sideOf = (party: string, account: string): PartySide => {
    const kind = known.get(party)?.kind;
    if (kind === 'customer' || kind === 'supplier') return kind === 'customer' ? 'Customer' : 'Supplier';
    const type = entity.accounts.get(account)?.type;
    return type === 'asset' || type === 'income' ? 'Customer' : 'Supplier';
  };
  const parties: Record<PartySide, Set<string>> = { Customer: new Set(), Supplier: new Set() };
  // Openings that are lines are written as lines; the stated opening is what is before them.
  const opened = new Map<string, number>();
  for await (const l of allLines(ctx, asked)) {
    if (!seen.has(l.entry)) entries += 1;
    seen.add(l.entry);
    if (l.counterparty !== null) parties[sideOf(l.counterparty, l.account)].add(l.counterparty);
    if (l.kind === 'opening') opened.set(l.account, (opened.get(l.account) ?? 0) + l.amount);
    if (l.side === 'debit') debit += l.amount;
    else credit -= l.amount;
  }
  const cal = calendar(entity.calendar);
  const { window } = asked.figure;
  const bound = (at: Ordinal | string, which: 'from' | 'to'): string =>
    typeof at === 'number' ? cal.period(at)[which] : at;
  return {
    company: entity,
    from: bound(window.from, 'from'),
    to: bound(window.to, 'to'),
    created: ctx.today(),
    accounts: chart.map((a) => {
      const balance = balances.get(a.code) ?? emptyBalance();
      const opening = add(balance.opening, 0 - (opened.get(a.code) ?? 0));
      return {
        code: a.code,
        name: a.name,
        type: a.type,
        standard: a.codes.standard ?? null,
        opening: formatAmount(opening, digits),
        closing: formatAmount(balance.closing, digits),
      };
    }),
    parties: (['Customer', 'Supplier'] as const).flatMap((as) =>
      [...parties[as]].map((code) => ({ code, name: known.get(code)?.name ?? code, as })),
    ),
    sideOf,
    comment: seesWhole(asked.viewer)
      ? null
      : 'A part of the books: only lines that the person who made this file may see; totals and entries are of that part.',
    analysis: [...asked.known.catalogue.dimensions.values()].flatMap((d) => {
      const seen = knownMembers(asked.viewer, d.code, d.tree);
      return [...d.tree.values()]
        .filter((m) => seen === null || seen.has(m.code))
        .map((m) => ({ type: d.code, typeName: d.name, code: m.code, name: m.name }));
    }),
    totals: { entries, debit: formatAmount(debit, digits), credit: formatAmount(credit, digits) },
  };
}
