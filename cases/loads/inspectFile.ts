import type { Inspection, PreviewEntry } from '@/contracts/answers/loads';
import type { LoadKind, Mapping } from '@/contracts/mapping';
import { notFound } from '@/contracts/problem';
import type { ReadonlyDeep } from '@/contracts/routes';
import { exponentOf, formatAmount } from '@/core/money';
import { guessColumns, type KnownCodes } from '@/exchange/guess';
import { presetOf } from '@/exchange/presets';
import { Problems } from '@/exchange/problem';
import { missingFields, readRecords } from '@/exchange/readRecords';
import { type DeliveredFile, type Recognition, recognise } from '@/exchange/recognise';
import { UnreadableFile } from '@/exchange/source';
import { COLUMNS } from '@/exchange/tables';
import { mappingsFor } from '@/store/mappings';
import { type Context, known } from '../asking/context';
import { maySee, require, type Viewer } from '../asking/viewer';
import type { Work } from '../jobs/work';
import { viewerOfPerson } from '../people/signIn';
import type { InspectionFields } from './askLook';
import { shapeOf } from './fileShape';
import { keptFile } from './keptFiles';
import { LineReader } from './loading/loadLines';
import { newAccount, typeOf } from './loading/loadMasterFiles';

/** Rows of the file that are shown as they are. */
const ROWS_SHOWN = 12;
/** Rows that are read to show what they would become. */
const ROWS_TRIED = 400;
const ENTRIES_SHOWN = 5;

/** The work of such a look. What is wrong with the question is told to whoever asked it, as it is. */
export async function lookAtFile({ ctx, job }: Work): Promise<{ result: ReadonlyDeep<Inspection> }> {
  const { digest, wanted } = job.input as { digest: string; wanted: InspectionFields };
  const viewer = await viewerOfPerson(ctx, job.person as number);
  return { result: await inspectFile(ctx, viewer, digest, wanted) };
}

/**
 * Looks at a kept file: format, encoding, delimiter, decimal mark and date order, each with how sure that is; a guess
 * for every column; and how the first rows would read as entries. Nothing is loaded.
 */
export async function inspectFile(ctx: Context, viewer: Viewer, digest: string, wanted: InspectionFields) {
  require(viewer, 'preparer', 'load data');
  const { path } = await keptFile(ctx, 'file', digest);
  const { catalogue } = await known(ctx.write);
  const entity = wanted.entity === undefined ? null : (catalogue.entities.get(wanted.entity) ?? null);
  if (wanted.entity !== undefined && (!entity || !maySee(viewer, entity.code)))
    throw notFound(`Entity ${wanted.entity}`);
  let file: DeliveredFile = {
    path,
    kind: wanted.kind ?? 'lines',
    format: wanted.format ?? null,
    mapping: wanted.mapping ?? null,
  };
  try {
    let found = await recognise(file);
    if (wanted.kind === undefined) {
      file = { ...file, kind: kindOf(found) };
      found = await recognise(file);
    }
    const columns = COLUMNS[file.kind];
    const seen = [...catalogue.entities.values()].filter((e) => maySee(viewer, e.code));
    const codes: KnownCodes = {
      accounts: new Set((entity ? [entity] : seen).flatMap((e) => [...e.accounts.keys()])),
      entities: new Set(seen.map((e) => e.code)),
      dimensions: new Map(
        [...catalogue.dimensions.values()].map((d) => [d.code, { name: d.name, members: new Set(d.members.keys()) }]),
      ),
    };
    const cells = found.sample.map((r) => r.cells);
    const guesses = guessColumns(found.header, cells.slice(0, ROWS_TRIED), file.kind, codes);
    const offered = found.header.length > 0 ? await mappingsFor(ctx.write, file.kind, shapeOf(found.header)) : [];
    const mapping = wanted.mapping?.columns ? wanted.mapping : (offered[0]?.mapping ?? suggested(found, guesses));
    const settled =
      found.format === 'saft' ? found : await recognise({ ...file, mapping: withReading(mapping, wanted.mapping) });
    return {
      digest,
      kind: file.kind,
      format: settled.format,
      unreadable: null,
      container: found.source.container,
      members: found.source.members,
      sheets: found.sheets,
      reading: settled.reading,
      recognised: {
        encoding: found.encoding && {
          value: found.encoding.value,
          doubt: found.encoding.doubt,
          why: found.encoding.why,
        },
        decimal: settled.decimal,
        dates: settled.dates,
      },
      header: found.header,
      columns: found.header.map((name, i) => ({ name, guess: guesses[i] ?? null, values: distinct(cells, i) })),
      rows: found.sample.slice(0, ROWS_SHOWN),
      ownColumns: found.strict && found.header.every((name) => found.fields.has(name)),
      fields: {
        required: columns.required,
        anyOf: columns.anyOf ?? [],
        known: columns.known,
        prefixes: columns.prefixes,
      },
      missing: settled.shape === 'xml' ? [] : missingFields({ ...settled, strict: false }, columns, file.kind),
      mapping,
      offered: offered.map((o) => ({ name: o.name, mapping: o.mapping })),
      preview:
        file.kind === 'lines'
          ? await preview(
              ctx,
              { ...file, mapping: withReading(mapping, wanted.mapping) },
              settled,
              wanted,
              entity?.code ?? null,
            )
          : null,
    };
  } catch (error) {
    if (!(error instanceof UnreadableFile)) throw error;
    return { digest, kind: file.kind, unreadable: error.message };
  }
}

const withReading = (mapping: Mapping | null, wanted: Mapping | undefined): Mapping | null =>
  mapping || wanted
    ? { ...mapping, ...(wanted?.reading ? { reading: { ...mapping?.reading, ...wanted.reading } } : {}) }
    : null;

/** What a table probably holds, by which fields its names give. */
function kindOf(found: Recognition): LoadKind {
  if (found.format === 'saft') return 'lines';
  const preset = presetOf(found.header);
  if (preset) return preset.kind;
  const has = (...names: string[]): boolean => names.every((n) => found.header.includes(n));
  if (has('entry', 'account')) return 'lines';
  if (has('code', 'type')) return 'accounts';
  if (has('scheme', 'code')) return 'schemes';
  if (has('dimension', 'code')) return 'dimensions';
  if (has('code', 'name') && (has('address') || has('bank_account') || has('tax_number'))) return 'parties';
  if (has('version', 'account')) return 'budgets';
  if (has('from', 'to', 'rate')) return 'rates';
  if (has('year', 'number', 'from')) return 'calendar';
  if (has('number', 'kind', 'account')) return 'holdings';
  if (has('code', 'name', 'box')) return 'tax-codes';
  if (has('document', 'amount') && (has('line') || has('unit_price'))) return 'document-lines';
  if (has('number', 'type', 'amount')) return 'documents';
  if (has('number', 'account', 'amount')) return 'commitments';
  return 'lines';
}

/** The guesses as a mapping; none is needed where the columns bear our own names. */
function suggested(found: Recognition, guesses: ReturnType<typeof guessColumns>): Mapping | null {
  if (found.format === 'saft' || found.preset) return found.preset?.mapping(found.header) ?? null;
  if (found.strict && found.header.every((name) => found.fields.has(name))) return null;
  const columns: Record<string, string> = {};
  const at = new Map<string, number>();
  for (const [i, guess] of guesses.entries()) {
    if (!guess) continue;
    columns[guess.field] = found.header[i] as string;
    at.set(guess.field, i);
  }
  const [entry, journal] = [at.get('entry'), at.get('journal')];
  // Where a number occurs in two journals it counts within its journal only.
  if (entry !== undefined && journal !== undefined && occursTwice(found, entry, journal)) {
    return { columns: { ...columns, entry: [found.header[journal] as string, found.header[entry] as string] } };
  }
  return { columns };
}

function occursTwice(found: Recognition, entry: number, journal: number): boolean {
  const journalOf = new Map<string, string>();
  for (const { cells } of found.sample) {
    const [number = '', own = ''] = [cells[entry], cells[journal]];
    if ((journalOf.get(number) ?? own) !== own) return true;
    journalOf.set(number, own);
  }
  return false;
}

const DISTINCT_SHOWN = 4;
const distinct = (rows: readonly (readonly string[])[], i: number): string[] =>
  [...new Set(rows.map((r) => (r[i] ?? '').trim()).filter(Boolean))].slice(0, DISTINCT_SHOWN);

/** The first rows as the entries that they would become, with what is wrong in them. */
async function preview(
  ctx: Context,
  file: DeliveredFile,
  found: Recognition,
  wanted: InspectionFields,
  entityCode: string | null,
) {
  const { catalogue } = await known(ctx.write);
  const entity = entityCode === null ? null : (catalogue.entities.get(entityCode) ?? null);
  const problems = new Problems();
  const fromFile = found.format === 'saft' || wanted.unknownAccounts === 'create';
  let invented = 0;
  const reader = new LineReader(
    { entity, catalogue, replaces: null },
    problems,
    () => 0,
    fromFile
      ? async (of, code, values) => {
          invented -= 1;
          return {
            id: invented,
            ...newAccount(of, code, values.account_name || code, typeOf(values, code, found.format), ''),
            dimRules: {},
          };
        }
      : null,
  );
  const entries = new Map<
    string,
    { entity: string; entry: string; date: string; lines: PreviewEntry['lines']; off: number }
  >();
  const slots = new Map([...catalogue.dimensions.values()].map((d) => [d.slot, d.code]));
  let rows = 0;
  for await (const record of readRecords(file, problems, { slots })) {
    rows += 1;
    // Members that the file itself brings are not there yet.
    if (found.format === 'saft')
      for (const name of Object.keys(record.values)) if (name.startsWith('dim:')) delete record.values[name];
    const line = await reader.read(record);
    const own = [...catalogue.entities.values()].find((e) => e.id === line?.entity);
    if (line && own) {
      const digits = exponentOf(own.currency);
      const key = `${own.code}|${line.entryNumber}`;
      const entry = entries.get(key) ?? {
        entity: own.code,
        entry: line.entryNumber,
        date: line.postingDate,
        lines: [],
        off: 0,
      };
      entries.set(key, entry);
      entry.off += line.amount;
      const account = own.accountOf.get(line.account);
      const dims = Object.entries(record.values).filter(([name, value]) => name.startsWith('dim:') && value !== '');
      entry.lines.push({
        line: line.line,
        account: record.values.account ?? '',
        accountName: account?.name ?? record.values.account_name ?? '',
        debit: line.side === 1 ? formatAmount(line.amount, digits) : '',
        credit: line.side === 1 ? '' : formatAmount(0 - line.amount, digits),
        description: line.description,
        dims: dims.map(([name, value]) => `${name.slice(4)} ${value}`),
      });
    }
    if (rows >= ROWS_TRIED) break;
  }
  const list = [...entries.values()];
  return {
    rows,
    entries: list.slice(0, ENTRIES_SHOWN).map(({ off, ...entry }) => ({ ...entry, balances: off === 0 })),
    // The last entry may go on beyond the rows tried.
    balanced: list.slice(0, rows >= ROWS_TRIED ? -1 : undefined).every((e) => e.off === 0),
    problems: problems.kept.slice(0, 20),
    problemCount: problems.count,
  };
}
