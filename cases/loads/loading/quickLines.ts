import { createWriteStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import type { DateOrder } from '@/contracts/mapping';
import { LINE_KINDS } from '@/core/ledger';
import { exponentOf } from '@/core/money';
import { plainDate } from '@/exchange/dialect';
import { decoding } from '@/exchange/encoding';
import { Problems } from '@/exchange/problem';
import { quotesAreSound } from '@/exchange/quotes';
import { type Recognition, recognise } from '@/exchange/recognise';
import { unguardedCell } from '@/exchange/writers';
import type { CatalogueEntity } from '@/store/catalogue';
import { KIND, STATUS } from '@/store/codes';
import { type Different, differentValues, type Meanings, type QuickFile, stageRaw } from '@/store/quickStage';
import { laidBefore, type Stage } from '@/store/stage';
import { type Dictionary, dictionaries, idOfCode, membersOf } from '@/store/staging';
import { Fields } from './fields';
import type { LoadJob } from './loadJob';

/** Share of the reading that the first look at the file takes. */
const FIRST_LOOK = 0.4;

/**
 * Stages a delimited file the quick way, if it is plainly right from its first row to its last: its columns are known by our
 * own names or by a mapping, each field in one of them.
 * @returns false, with nothing changed, if any row needs a closer look
 */
export async function quickLines(stage: Stage, job: LoadJob): Promise<boolean> {
  if (job.createAccounts || (job.file.format !== null && job.file.format !== 'csv')) return false;
  const found = await recognise(job.file).catch(() => null);
  const plain =
    found?.shape === 'text' &&
    found.headerRow === 1 &&
    found.reading.quotes !== 'letters' &&
    found.dates.doubt !== 'ask' &&
    found.decimal.doubt !== 'ask';
  const header = found && plain ? fieldsInOrder(found) : null;
  if (!found || !header) return false;
  const delimiter = found.reading.delimiter ?? ',';
  const dims = header
    .filter((h) => h.startsWith('dim:'))
    .map((column) => ({ column, dimension: job.catalogue.dimensions.get(column.slice(4)) }));
  if (
    dims.some((d) => !d.dimension) ||
    ['entry', 'line', 'date', 'account', 'description'].some((name) => !header.includes(name)) ||
    // Other dates than that of posting are kept as they stand.
    (found.dates.value !== 'ymd' && OTHER_DATES.some((name) => header.includes(name)))
  )
    return false;
  if (!header.includes('amount') && !(header.includes('debit') && header.includes('credit'))) return false;

  const size = (await stat(job.file.path)).size;
  const plainPath = found.source.container === 'none' && found.reading.encoding === 'utf-8';
  let told = 0;
  /** Tells how far the reading is, of all that there is to read. */
  const tell = (from: number, to: number, rows: number) => {
    let read = 0;
    return (share: number): void => {
      const bytes = Math.round(size * (from + (to - from) * share));
      if (bytes > told) job.reading.onBytes?.(bytes - told);
      told = Math.max(told, bytes);
      const more = Math.max(0, Math.floor(rows * share) - read);
      read += more;
      counted += more;
      job.onRows(more);
    };
  };
  let counted = 0;
  try {
    const file: QuickFile = {
      path: plainPath ? job.file.path : stage.path('unpacked'),
      header,
      delimiter,
      decimal: found.decimal.value,
    };
    if (!plainPath)
      await pipeline(
        await found.source.stream(),
        decoding(found.reading.encoding ?? 'utf-8'),
        createWriteStream(file.path),
      );
    if (!(await quotesAreSound(file.path, delimiter))) return false;
    const different = await stage.withProgress(() => differentValues(stage, file), tell(0, FIRST_LOOK, 0));
    const meanings = await understood(job, different, dims as FoundDimension[], found.dates.value);
    if (meanings) {
      await stage.roomFor(different.rows);
      const staged = await stage.withProgress(
        () => stageRaw(stage, file, meanings),
        tell(FIRST_LOOK, 1, different.rows),
      );
      if (different.rows > 0 && staged === different.rows && (await balanced(stage, job))) {
        tell(1, 1, different.rows - counted)(1);
        return true;
      }
    }
  } catch (error) {
    if ((error as { cancelled?: boolean }).cancelled) throw error;
    // Anything else is for the reader that can say what it is.
  }
  await stage.empty();
  job.onRows(-counted);
  job.reading.onBytes?.(-told);
  return false;
}

const OTHER_DATES = ['document_date', 'due_date', 'entered_at'];

/**
 * What each column of a file is by our own names, in its order; columns that nobody named are left out.
 * @returns null where a field is made of several columns or is the same for all rows, or the file says a side by a word
 */
function fieldsInOrder({ header, fields, constants, strict }: Recognition): string[] | null {
  if (Object.keys(constants).length > 0 || fields.has('side')) return null;
  if (strict && (header.some((name) => !fields.has(name)) || new Set(header).size < header.length)) return null;
  const named = header.map((_, i) => `~${i}`);
  for (const [field, at] of fields) {
    const [place] = at;
    if (at.length !== 1 || place === undefined || field.startsWith('slot:')) return null;
    named[place] = field;
  }
  return named;
}

interface FoundDimension {
  column: string;
  dimension: { id: number; slot: number };
}

/** Looks up what the file's different values mean; null if any of them needs a closer look. */
async function understood(
  job: LoadJob,
  different: Different,
  dims: FoundDimension[],
  order: DateOrder,
): Promise<Meanings | null> {
  const problems = new Problems();
  const fields = new Fields(job, problems);
  const fault = (): void => problems.add(null, null, null, '');
  const entities = new Map<string, CatalogueEntity>();
  const moments: Meanings['moments'] = [];
  for (const m of different.moments) {
    const date = plainDate(m.date ?? '', order);
    const entity = fields.entity(m.entity ?? undefined, fault);
    const moment = entity && fields.moment(entity, { date, period: m.period ?? '', year: m.year ?? '' }, fault);
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
      postingDate: date.trim(),
      digits: exponentOf(entity.currency),
    });
  }
  const currencies: [string, number][] = [];
  for (const code of different.currencies) {
    if (!/^[A-Z]{3}$/.test(code)) return null;
    currencies.push([code, exponentOf(code)]);
  }
  const members = await membersOf(
    job.outside,
    dims.map(({ dimension }) => dimension.id),
  );
  const held = await dictionaries(job.outside);
  const ids = async (
    table: Dictionary,
    codes: { code: string; name?: string | null }[],
  ): Promise<[string, number][]> => {
    const found: [string, number][] = [];
    for (const { code: written, name } of codes) {
      const code = unguardedCell(written);
      const id = held[table].get(code) ?? (await idOfCode(job.outside, table, code, unguardedCell(name || written)));
      found.push([written, id]);
    }
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
          const mask = (rule: string): number =>
            Object.entries(a.dimRules).reduce((bits, [dim, is]) => (is === rule ? bits | bit(dim) : bits), 0);
          return { entity: written, code: a.code, id: a.id, required: mask('required'), forbidden: mask('forbidden') };
        }),
    ),
    dims: dims.map(({ column, dimension }) => ({
      column,
      slot: dimension.slot,
      members: members.flatMap((m): [string, number][] => (m.dimension === dimension.id ? [[m.code, m.id]] : [])),
    })),
    entities: [...job.catalogue.entities.keys()],
    kinds: Object.fromEntries(LINE_KINDS.map((k) => [k, KIND[k]])),
    statuses: STATUS,
    kindAdjustment: KIND.adjustment,
    replaces: job.replaces,
  };
}

/** Whether every entry balances, no line is twice, and no entry is there already. */
const balanced = async (stage: Stage, job: LoadJob): Promise<boolean> =>
  !(await stage.hasOddEntries()) && (await laidBefore(job.inside, stage, 1)).length === 0;
