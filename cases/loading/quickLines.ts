import { Transform } from 'node:stream';
import { LINE_KINDS } from '@/core/ledger';
import { exponentOf } from '@/core/money';
import { decoding } from '@/exchange/encoding';
import { Problems } from '@/exchange/problem';
import { recognise } from '@/exchange/recognise';
import type { CatalogueEntity } from '@/store/catalogue';
import { KIND, STATUS } from '@/store/codes';
import { type Db, rowsOf } from '@/store/db';
import { copyRaw, differentValues, type Meanings, stageRaw } from '@/store/quickStage';
import { type Dictionary, dictionaries, idOfCode } from '@/store/staging';
import { Fields } from './fields';
import type { LoadJob } from './loadJob';

/** Text that the row-by-row reader reads otherwise than the database, or refuses. */
class NotPlain extends Error {}

/**
 * Stages our own CSV the quick way, if the file is plainly right from its first row to its last.
 * @returns false, with nothing changed, if any row needs a closer look
 */
export async function quickLines(db: Db, job: LoadJob): Promise<boolean> {
  if (job.createAccounts || (job.file.format !== null && job.file.format !== 'csv')) return false;
  const found = await recognise(job.file).catch(() => null);
  const plain =
    found?.shape === 'text' &&
    found.strict &&
    found.headerRow === 1 &&
    found.dates.value === 'ymd' &&
    found.decimal.value === '.' &&
    found.decimal.doubt !== 'ask';
  if (!found || !plain || found.header.some((name) => !found.fields.has(name)) || new Set(found.header).size < found.header.length) return false;
  const delimiter = found.reading.delimiter ?? ',';
  const dims = found.header.filter((h) => h.startsWith('dim:')).map((column) => ({ column, dimension: job.catalogue.dimensions.get(column.slice(4)) }));
  if (dims.some((d) => !d.dimension) || ['entry', 'line', 'date', 'account', 'description'].some((name) => !found.fields.has(name))) return false;
  if (!found.fields.has('amount') && !(found.fields.has('debit') && found.fields.has('credit'))) return false;

  const file = { header: found.header, delimiter };
  let rows = 0;
  const count = (more: number): void => {
    rows += more;
    job.onRows(more);
  };
  try {
    await db.raw('savepoint quick');
    const bytes = await found.source.stream(job.reading.onBytes);
    const text = bytes.pipe(decoding(found.reading.encoding ?? 'utf-8'));
    bytes.on('error', (error) => text.destroy(error));
    await copyRaw(
      db,
      file,
      text.pipe(onlyPlain(delimiter, count)).on('error', () => bytes.destroy()),
    );
    const meanings = await understood(db, job, file, dims as { column: string; dimension: { id: number; slot: number } }[]);
    if (meanings && (await stageRaw(db, file, meanings)) && (await balanced(db))) return true;
  } catch (error) {
    if ((error as { cancelled?: boolean }).cancelled) throw error;
    // Anything else is for the reader that can say what it is.
  }
  await db.raw('rollback to savepoint quick');
  job.onRows(-rows);
  return false;
}

/** Passes text through, and stops at what the database would read otherwise: quotes within a field, guarded cells, a lone \. */
function onlyPlain(delimiter: string, onRows: (rows: number) => void): Transform {
  const d = delimiter === '|' ? '\\|' : delimiter;
  const odd = new RegExp(`[^${d}\\n\\r"]"[^${d}\\n\\r"]|(^|[${d}\\n"])'+[=+\\-@\\t\\r]|\\n\\\\\\.\\r?\\n|\\n\\r?\\n.`);
  let tail = '\n';
  return new Transform({
    decodeStrings: false,
    transform(chunk: string | Buffer, _encoding, done) {
      const text = tail + String(chunk);
      tail = text.slice(-4);
      if (odd.test(text)) return done(new NotPlain());
      try {
        let rows = 0;
        for (let at = text.indexOf('\n', 4); at !== -1; at = text.indexOf('\n', at + 1)) rows += 1;
        onRows(rows);
        done(null, chunk);
      } catch (error) {
        done(Object.assign(error as Error, { cancelled: true }));
      }
    },
  });
}

/** Looks up what the file's different values mean; null if any of them needs a closer look. */
async function understood(
  db: Db,
  job: LoadJob,
  file: { header: string[]; delimiter: string },
  dims: { column: string; dimension: { id: number; slot: number } }[],
): Promise<Meanings | null> {
  const different = await differentValues(db, file);
  const problems = new Problems();
  const fields = new Fields(job, problems);
  const fault = (): void => problems.add(null, null, null, '');
  const entities = new Map<string, CatalogueEntity>();
  const moments: Meanings['moments'] = [];
  for (const m of different.moments) {
    const entity = fields.entity(m.entity ?? undefined, fault);
    const moment = entity && fields.moment(entity, { date: m.date ?? '', period: m.period ?? '', year: m.year ?? '' }, fault);
    if (!entity || !moment) return null;
    entities.set(m.entity ?? '', entity);
    const { period: ordinal, dayPeriod, day, adjustment } = moment;
    moments.push({
      ...m,
      entityId: entity.id,
      ordinal,
      dayPeriod,
      day,
      adjustment,
      postingDate: (m.date as string).trim(),
      digits: exponentOf(entity.currency),
    });
  }
  const currencies: [string, number][] = [];
  for (const code of different.currencies) {
    if (!/^[A-Z]{3}$/.test(code)) return null;
    currencies.push([code, exponentOf(code)]);
  }
  const held = await dictionaries(job.outside);
  const ids = async (table: Dictionary, codes: { code: string; name?: string | null }[]): Promise<[string, number][]> => {
    const found: [string, number][] = [];
    for (const { code, name } of codes) found.push([code, held[table].get(code) ?? (await idOfCode(job.outside, table, code, name || code))]);
    return found;
  };
  const bit = (code: string): number => {
    const dimension = job.catalogue.dimensions.get(code);
    return dimension ? 1 << (dimension.slot - 1) : 0;
  };
  return {
    moments,
    currencies,
    journals: await ids(
      'journal',
      different.journals.map((code) => ({ code })),
    ),
    counterparties: await ids('counterparty', different.counterparties),
    users: await ids(
      'ledger_user',
      different.users.map((code) => ({ code })),
    ),
    accounts: [...entities].flatMap(([written, e]) =>
      e.chart
        .filter((a) => a.posting)
        .map((a) => {
          const mask = (rule: string): number => Object.entries(a.dimRules).reduce((bits, [dim, is]) => (is === rule ? bits | bit(dim) : bits), 0);
          return { entity: written, code: a.code, id: a.id, required: mask('required'), forbidden: mask('forbidden') };
        }),
    ),
    dims: dims.map(({ column, dimension }) => ({ column, dimension: dimension.id, slot: dimension.slot })),
    entities: [...job.catalogue.entities.keys()],
    kinds: Object.fromEntries(LINE_KINDS.map((k) => [k, KIND[k]])),
    statuses: STATUS,
    kindAdjustment: KIND.adjustment,
    replaces: job.replaces,
  };
}

/** Whether every entry balances, no line stands twice, and no entry is there already. */
async function balanced(db: Db): Promise<boolean> {
  const [row] = await rowsOf<{ off: boolean }>(
    db,
    `select exists (
       select 1 from (select entity, entry_number, sum(amount) as off, count(*) as lines, count(distinct line_no) as numbers from staged_line group by 1, 2) e
       where off <> 0 or lines <> numbers)
     or exists (
       select 1 from entry e where e.replaced_by = 2147483647 and exists (
         select 1 from staged_line s where s.entity = e.entity and s.entry_number = e.number)) as off`,
  );
  return row?.off === false;
}
