import { EXTRA_FIELDS } from '@/core/lineFields';
import { quoted } from './duck';
import type { Stage } from './stage';

/**
 * The quick way of reading a delimited file of lines: the stage takes the text as it is and turns it into lines by joins, all rows at
 * once. It only ever says yes or no: whatever is not plainly right is left to the reader that checks row by row and can
 * say what is wrong and where.
 */
export interface QuickFile {
  /** A plain file of UTF-8 text. */
  path: string;
  /** What each column is by our own names, in the order of the file; a name that is none of ours is left out. */
  header: readonly string[];
  delimiter: string;
  /** The decimal mark of its amounts. */
  decimal: '.' | ',';
}

const column = (file: QuickFile, name: string): string =>
  file.header.includes(name) ? `r.c${file.header.indexOf(name)}` : 'null::varchar';

/**
 * The rows of the file as text, an empty cell as null. Ragged rows, open quotes and mixed line ends are errors; marks within
 * a field that is not quoted are taken as they stand, which the caller has ruled out.
 */
const rowsIn = (file: QuickFile): string =>
  `read_csv(${quoted(file.path)}, auto_detect = false, header = true, strict_mode = true, buffer_size = 8000000, delim = ${quoted(file.delimiter)}, quote = '"', escape = '"',
    columns = {${file.header.map((_, i) => `c${i}: 'varchar'`).join(', ')}})`;

/** The different values of what has to be understood outside the database. */
export interface Different {
  moments: { entity: string | null; date: string | null; period: string | null; year: string | null }[];
  journals: string[];
  counterparties: { code: string; name: string | null }[];
  users: string[];
  currencies: string[];
}

/** A text without the mark that guards it from being run as a formula, see exchange/writers. */
const unguarded = (column: string): string =>
  `(case when starts_with(${column}, '''') and regexp_matches(${column}, '^''+[=+\\-@\\t\\r]') then substr(${column}, 2) else ${column} end)`;

/** A number with a decimal comma with a point instead; with a point of its own it is none, and is looked at more closely. */
const pointed = (column: string): string =>
  `(case when contains(${column}, '.') then 'x' else replace(${column}, ',', '.') end)`;

/** Columns of text that stay as they are, and are understood by nothing else that would look at them. */
const TEXTS = [
  'entry',
  'document',
  'unit',
  'description',
  'entry_description',
  'entered_at',
  'approved_by',
  'reversal_of',
  'source',
  'document_type',
  'tax_code',
  'tax_amount',
  'attachment',
  'reconciled',
];

/** Dates and amounts are written without a guard, and read as they stand. */
const GUARDED = TEXTS.filter((name) => name !== 'entered_at' && name !== 'tax_amount');

/** Reads the file for what its rows have in common; codes as they are written. */
export async function differentValues(stage: Stage, file: QuickFile): Promise<Different & { rows: number }> {
  const c = (name: string): string => column(file, name);
  // What the file has not is in no set: one missing column could not be told from another.
  const has = (name: string): boolean => file.header.includes(name);
  const names = ['date', 'entity', 'period', 'year', ...OF_LINES];
  const sets = [['date', 'entity', 'period', 'year'].filter(has), ...OF_LINES.filter(has).map((name) => [name])];
  const found = await stage.rows<FoundValues>(
    `select grouping(${sets.map(([first]) => c(first as string)).join(', ')}) as set, count(*) as rows, min(${c('counterparty_name')}) as name,
       ${names.map((name) => `${c(name)} as ${name}`).join(', ')}
     from ${rowsIn(file)} r group by grouping sets (${sets.map((names) => `(${names.map(c).join(', ')})`).join(', ')})`,
  );
  // A bit for each column that a set leaves out, the last column's being the lowest.
  const inSet = (at: number): FoundValues[] =>
    found.filter(({ set }) => set === 2 ** sets.length - 1 - 2 ** (sets.length - 1 - at));
  const setOf = (name: (typeof OF_LINES)[number]): FoundValues[] =>
    has(name) ? inSet(sets.findIndex(([first]) => first === name)) : [];
  const codes = (name: (typeof OF_LINES)[number]): string[] =>
    setOf(name)
      .flatMap((f) => f[name] ?? [])
      .sort();
  const counterparties = setOf('counterparty').flatMap(({ counterparty, name }) =>
    counterparty === null ? [] : [{ code: counterparty, name }],
  );
  const different = {
    counterparties,
    journals: codes('journal'),
    users: codes('posted_by'),
    currencies: codes('currency'),
  };
  const moments = inSet(0).map(({ entity, date, period, year, rows }) => ({ entity, date, period, year, rows }));
  return { ...different, rows: moments.reduce((sum, m) => sum + m.rows, 0), moments };
}

/** What lines name by a code, each to be known apart from the others. */
const OF_LINES = ['counterparty', 'journal', 'posted_by', 'currency'] as const;

interface FoundValues {
  set: number;
  rows: number;
  name: string | null;
  entity: string | null;
  date: string | null;
  period: string | null;
  year: string | null;
  counterparty: string | null;
  journal: string | null;
  posted_by: string | null;
  currency: string | null;
}

/** What the different values mean, as tables that the rows are joined with. */
export interface Meanings {
  moments: {
    entity: string | null;
    date: string | null;
    period: string | null;
    year: string | null;
    entityId: number;
    ordinal: number;
    dayPeriod: number;
    day: string;
    adjustment: boolean;
    postingDate: string;
    digits: number;
  }[];
  journals: [code: string, id: number][];
  counterparties: [code: string, id: number][];
  users: [code: string, id: number][];
  currencies: [code: string, digits: number][];
  /** Posting accounts by the entity as the file writes it, with a bit for each slot that must, or must not, be given. */
  accounts: { entity: string; code: string; id: number; required: number; forbidden: number }[];
  /** Dimension columns of the file with the slot that they fill. */
  dims: { column: string; slot: number; members: [code: string, id: number][] }[];
  entities: string[];
  kinds: Record<string, number>;
  statuses: Record<string, number>;
  kindAdjustment: number;
  replaces: { from: number; to: number } | null;
}

/** Amounts of so many characters are within 2^53 whatever the currency. */
const PLAIN_CHARS = 14;

/** What is written with the decimal mark of the file. */
const NUMBERS = ['debit', 'credit', 'amount', 'currency_amount', 'quantity', 'tax_amount'];

/** Turns the rows of the file into staged lines. @returns how many are plainly right; unless that is all, none may be used */
export async function stageRaw(stage: Stage, file: QuickFile, m: Meanings): Promise<number> {
  const c = (name: string): string => {
    const own = column(file, name);
    if (file.decimal === ',' && NUMBERS.includes(name) && own.startsWith('r.')) return pointed(own);
    return GUARDED.includes(name) ? unguarded(own) : own;
  };
  const has = (name: string): boolean => file.header.includes(name);
  for (const [name, columns, rows] of [
    [
      'quick_moment',
      {
        entity: 'varchar',
        date: 'varchar',
        period: 'varchar',
        year: 'varchar',
        entityId: 'smallint',
        ordinal: 'smallint',
        dayPeriod: 'smallint',
        day: 'date',
        adjustment: 'boolean',
        postingDate: 'date',
        digits: 'smallint',
        scale: 'integer',
      },
      m.moments.map((x) => ({ ...x, scale: 10 ** x.digits })),
    ],
    [
      'quick_account',
      { entity: 'varchar', code: 'varchar', id: 'integer', required: 'integer', forbidden: 'integer' },
      m.accounts,
    ],
    ['quick_counterparty', { code: 'varchar', id: 'integer' }, m.counterparties.map(([code, id]) => ({ code, id }))],
    [
      'quick_currency',
      { code: 'varchar', digits: 'smallint', scale: 'integer' },
      m.currencies.map(([code, digits]) => ({ code, digits, scale: 10 ** digits })),
    ],
  ] as const)
    await stage.table(name, columns, rows);
  const journal = await lookUp(stage, 'quick_journal', m.journals, c('journal'));
  const user = await lookUp(stage, 'quick_user', m.users, c('posted_by'));
  // A member that is not known is looked up once and told afterwards, by a number below nothing.
  const members = new Map<number, string>();
  for (const d of m.dims) {
    const found = await lookUp(stage, `quick_d${d.slot}`, d.members, `trim(${c(d.column)})`);
    members.set(d.slot, `case when ${c(d.column)} is null then 0 else coalesce(${found}, -1) end`);
  }
  const money = (name: string, of: string): string => `(${c(name)}::decimal(18, 4) * ${of}.scale)`;
  // Longer amounts, and decimals beyond the currency's, are left to the reader that weighs them exactly.
  const isAmount = (name: string, of: string): string =>
    `(${c(name)} is null or (length(${c(name)}) <= ${PLAIN_CHARS} and regexp_full_match(${c(name)}, '[+-]?[0-9]+(\\.[0-9]+)?')
       and (strpos(${c(name)}, '.') = 0 or length(${c(name)}) - strpos(${c(name)}, '.') <= ${of}.digits)))`;
  const amount = `coalesce(${has('amount') ? `${money('amount', 'm')},` : ''} case when coalesce(${money('credit', 'm')}, 0) <> 0 then -${money('credit', 'm')} else coalesce(${money('debit', 'm')}, 0) end)::bigint`;
  const side = `(case when ${c('amount')} is not null then case when ${c('amount')}::decimal(18, 4) < 0 then -1 else 1 end
    when coalesce(${c('credit')}::decimal(18, 4), 0) <> 0 or ${c('debit')} is null then -1 else 1 end)`;
  const given =
    m.dims.map((d) => `case when ${c(d.column)} is null then 0 else ${1 << (d.slot - 1)} end`).join(' + ') || '0';
  const kind = has('kind') ? wordOf(c('kind'), m.kinds, m.kinds.normal as number) : `${m.kinds.normal}`;
  const status = has('status') ? wordOf(c('status'), m.statuses, m.statuses.posted as number) : `${m.statuses.posted}`;
  const extras = EXTRA_FIELDS.map((f) => f.column).filter(has);
  const extra =
    extras.length === 0
      ? 'null'
      : `case when ${extras.map((n) => `${c(n)} is null`).join(' and ')} then null
           else '{' || concat_ws(', ', ${extras.map((n) => `case when ${c(n)} is not null then '"${n}": ' || to_json(${c(n)}) end`).join(', ')}) || '}' end`;
  const checks = [
    `trim(${c('entry')}) <> ''`,
    `regexp_full_match(${c('line')}, ' *[0-9]{1,9} *')`,
    `(a.required & ~(${given})) = 0 and (a.forbidden & (${given})) = 0`,
    ...['debit', 'credit', 'amount'].filter(has).map((n) => isAmount(n, 'm')),
    `(${c('debit')} is null or ${c('credit')} is null or ${c('debit')}::decimal(18, 4) = 0 or ${c('credit')}::decimal(18, 4) = 0)`,
    `(${c('amount')} is not null) <> (${c('debit')} is not null or ${c('credit')} is not null)`,
    ...(has('currency_amount')
      ? [`(${c('currency_amount')} is null or (cur.code is not null and ${isAmount('currency_amount', 'cur')}))`]
      : []),
    ...(has('currency') ? [`(${c('currency')} is null or cur.code is not null)`] : []),
    ...(has('quantity')
      ? [`(${c('quantity')} is null or regexp_full_match(${c('quantity')}, '-?[0-9]+(\\.[0-9]+)?'))`]
      : []),
    ...['document_date', 'due_date']
      .filter(has)
      .map((n) => `(${c(n)} is null or regexp_full_match(${c(n)}, '[0-9]{4}-[0-9]{2}-[0-9]{2}'))`),
    ...(has('partner_entity')
      ? [`(${c('partner_entity')} is null or ${c('partner_entity')} in (${m.entities.map(quoted).join(', ')}))`]
      : []),
    ...(has('entered_at')
      ? [`(${c('entered_at')} is null or not regexp_full_match(${c('entered_at')}, '[0-9]{8}'))`]
      : []),
    ...(m.replaces ? [`m.ordinal between ${m.replaces.from} and ${m.replaces.to}`] : []),
    ...(has('kind') ? [`${kind} >= 0`] : []),
    ...(has('status') ? [`${status} >= 0`] : []),
  ];
  // Equality that hashes: missing values are one value of their own.
  const key = (name: string): string => `coalesce(${c(name)}, '')`;
  await stage.run(
    `insert into staged_line by name
     select m."entityId" as entity, m.ordinal as period, m."dayPeriod" as day_period, ${status} as status,
       case when m.adjustment and ${kind} = ${m.kinds.normal} then ${m.kindAdjustment} else ${kind} end as kind, ${side} as side,
       coalesce(${journal}, 0) as journal, a.id as account, trim(${c('line')})::integer as line_no, m.day, m."postingDate" as posting_date,
       coalesce(cp.id, 0) as counterparty, coalesce(${user}, 0) as posted_by,
       ${Array.from({ length: 8 }, (_, i) => `${members.get(i + 1) ?? '0'} as d${i + 1}`).join(', ')},
       ${amount} as amount, ${has('currency_amount') ? `${money('currency_amount', 'cur')}::bigint` : 'null'} as currency_amount,
       trim(${c('entry')}) as entry_number, ${c('document')} as document, ${c('currency')} as currency,
       ${c('quantity')} as quantity, ${c('unit')} as unit, coalesce(${c('description')}, '') as description,
       coalesce(${c('entry_description')}, '') as entry_description, ${c('entered_at')} as entered_at, ${c('approved_by')} as approved_by,
       ${c('reversal_of')} as reversal_of, ${c('source')} as source, ${extra} as extra
     from ${rowsIn(file)} r
     join quick_moment m on coalesce(m.entity, '') = ${key('entity')} and coalesce(m.date, '') = ${key('date')} and coalesce(m.period, '') = ${key('period')}
       and coalesce(m.year, '') = ${key('year')}
     join quick_account a on a.entity = ${key('entity')} and a.code = trim(${c('account')})
     ${has('counterparty') ? `left join quick_counterparty cp on cp.code = ${c('counterparty')}` : 'left join (select 0 as id) cp on false'}
     ${has('currency') ? `left join quick_currency cur on cur.code = ${c('currency')}` : 'left join (select null::varchar as code, 0 as digits, 1 as scale) cur on false'}
     where ${checks.join('\n       and ')}`,
  );
  const [counted] = await stage.rows<{ n: number }>(
    'select count(*) as n from staged_line where least(d1, d2, d3, d4, d5, d6, d7, d8) >= 0',
  );
  return counted?.n ?? 0;
}

/**
 * The id of a code as an expression, null where there is none: by a list, since a join takes memory however small it is.
 * @param name of the list, which is made
 */
async function lookUp(stage: Stage, name: string, codes: readonly [string, number][], value: string): Promise<string> {
  if (codes.length === 0) return 'null::integer';
  await stage.table(
    name,
    { code: 'varchar', id: 'integer' },
    codes.map(([code, id]) => ({ code, id })),
  );
  await stage.run(`create type ${name}_code as enum (select code from ${name} order by code)`);
  await stage.run(`set variable ${name}_ids = (select list(id order by code) from ${name})`);
  return `list_extract(getvariable('${name}_ids'), enum_code(try_cast(${value} as ${name}_code))::integer + 1)`;
}

/** The number that stands for a word, that of the usual word where there is none, −1 for any other. */
const wordOf = (text: string, words: Record<string, number>, usual: number): string =>
  `(case when ${text} is null then ${usual} ${Object.entries(words)
    .map(([word, n]) => `when lower(${text}) = '${word}' then ${n}`)
    .join(' ')} else -1 end)`;
