import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { PoolClient } from 'pg';
import { from as copyFrom } from 'pg-copy-streams';
import { type Db, rowsOf } from './db';

/**
 * The quick way of reading our own CSV: the database takes the text as it is and turns it into lines by joins, all
 * rows at once. It only ever says yes or no: whatever is not plainly right is left to the reader that checks row by
 * row and can say what is wrong and where.
 */
export interface QuickFile {
  /** Our own column names, in the order of the file. */
  header: readonly string[];
  delimiter: string;
}

const column = (file: QuickFile, name: string): string => (file.header.includes(name) ? `r.c${file.header.indexOf(name)}` : 'null::text');

/** Takes the rows of a file as text. @throws the database's error where rows are ragged or quotes are open */
export async function copyRaw(db: Db, file: QuickFile, text: Readable): Promise<void> {
  await db.raw(`create unlogged table raw_line (${file.header.map((_, i) => `c${i} text`).join(', ')})`);
  const client = (db as unknown as { client: { acquireConnection(): Promise<PoolClient> } }).client;
  const connection = await client.acquireConnection();
  const delimiter = file.delimiter === '\t' ? "E'\\t'" : `'${file.delimiter}'`;
  await pipeline(text, connection.query(copyFrom(`copy raw_line from stdin with (format csv, header true, delimiter ${delimiter})`)));
  await db.raw('analyze raw_line');
}

/** The different values of what has to be understood outside the database. */
export interface Different {
  moments: { entity: string | null; date: string | null; period: string | null; year: string | null }[];
  journals: string[];
  counterparties: { code: string; name: string | null }[];
  users: string[];
  currencies: string[];
}

export async function differentValues(db: Db, file: QuickFile): Promise<Different> {
  const c = (name: string): string => column(file, name);
  const distinct = async (name: string): Promise<string[]> =>
    file.header.includes(name)
      ? (await rowsOf<{ v: string }>(db, `select distinct ${c(name)} as v from raw_line r where ${c(name)} is not null`)).map((r) => r.v)
      : [];
  const moments = await rowsOf<Different['moments'][number]>(
    db,
    `select ${c('entity')} as entity, ${c('date')} as date, ${c('period')} as period, ${c('year')} as year from raw_line r group by 1, 2, 3, 4`,
  );
  const counterparties = file.header.includes('counterparty')
    ? await rowsOf<{ code: string; name: string | null }>(
        db,
        `select ${c('counterparty')} as code, min(${c('counterparty_name')}) as name from raw_line r where ${c('counterparty')} is not null group by 1`,
      )
    : [];
  return { moments, counterparties, journals: await distinct('journal'), users: await distinct('posted_by'), currencies: await distinct('currency') };
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
  dims: { column: string; dimension: number; slot: number }[];
  entities: string[];
  kinds: Record<string, number>;
  statuses: Record<string, number>;
  kindAdjustment: number;
  replaces: { from: number; to: number } | null;
}

const JSON_TABLE = (name: string, columns: string): string => `${name} as materialized (select * from jsonb_to_recordset(?::jsonb) as t(${columns}))`;
const EXTRA = ['document_type', 'document_date', 'due_date', 'partner_entity', 'tax_code', 'tax_amount', 'attachment'];
/** Amounts of so many characters are within 2^53 whatever the currency. */
const PLAIN_CHARS = 14;

/** Turns the raw rows into staged lines. @returns whether every row is plainly right; if not, nothing may be used */
export async function stageRaw(db: Db, file: QuickFile, m: Meanings): Promise<boolean> {
  const c = (name: string): string => column(file, name);
  const has = (name: string): boolean => file.header.includes(name);
  for (const [name, columns, rows] of [
    [
      'quick_moment',
      'entity text, date text, period text, year text, "entityId" smallint, ordinal smallint, "dayPeriod" smallint, day date, adjustment boolean, "postingDate" date, digits smallint, scale numeric',
      m.moments.map((x) => ({ ...x, scale: 10 ** x.digits })),
    ],
    ['quick_account', 'entity text, code text, id integer, required integer, forbidden integer', m.accounts],
    ['quick_journal', 'code text, id smallint', m.journals.map(([code, id]) => ({ code, id }))],
    ['quick_counterparty', 'code text, id integer', m.counterparties.map(([code, id]) => ({ code, id }))],
    ['quick_user', 'code text, id integer', m.users.map(([code, id]) => ({ code, id }))],
    ['quick_currency', 'code text, digits smallint, scale numeric', m.currencies.map(([code, digits]) => ({ code, digits, scale: 10 ** digits }))],
  ] as const) {
    await db.raw(`create unlogged table ${name} as with ${JSON_TABLE('t', columns)} select * from t`, [JSON.stringify(rows)]);
    await db.raw(`analyze ${name}`);
  }
  const money = (name: string, of: string): string => `(${c(name)}::numeric * ${of}.scale)`;
  // Longer amounts, and decimals beyond the currency's, are left to the reader that weighs them exactly.
  const isAmount = (name: string, of: string): string =>
    `(${c(name)} is null or (length(${c(name)}) <= ${PLAIN_CHARS} and ${c(name)} !~ '[^0-9.+-]' and scale(${c(name)}::numeric) <= ${of}.digits))`;
  const amount = `coalesce(${has('amount') ? `${money('amount', 'm')},` : ''} case when coalesce(${money('credit', 'm')}, 0) <> 0 then -${money('credit', 'm')} else coalesce(${money('debit', 'm')}, 0) end)::bigint`;
  const side = `case when ${c('amount')} is not null then case when ${c('amount')}::numeric < 0 then -1 else 1 end
    when coalesce(${c('credit')}::numeric, 0) <> 0 or ${c('debit')} is null then -1 else 1 end::smallint`;
  const slots = Array.from({ length: 8 }, (_, i) => m.dims.find((d) => d.slot === i + 1));
  const given = m.dims.map((d) => `case when ${c(d.column)} is null then 0 else ${1 << (d.slot - 1)} end`).join(' + ') || '0';
  const kind = has('kind') ? wordOf(c('kind'), m.kinds, m.kinds.normal as number) : `${m.kinds.normal}`;
  const status = has('status') ? wordOf(c('status'), m.statuses, m.statuses.posted as number) : `${m.statuses.posted}`;
  const extras = EXTRA.filter(has);
  const extra =
    extras.length === 0
      ? 'null::jsonb'
      : `case when ${extras.map((n) => `${c(n)} is null`).join(' and ')} then null else jsonb_strip_nulls(jsonb_build_object(${extras.map((n) => `'${n}', ${c(n)}`).join(', ')})) end`;
  const checks = [
    `${c('entry')} is not null and btrim(${c('entry')}) <> ''`,
    `${c('line')} ~ '^ *[0-9]{1,9} *$'`,
    '(a.required & ~g.given) = 0 and (a.forbidden & g.given) = 0',
    ...['debit', 'credit', 'amount'].filter(has).map((n) => isAmount(n, 'm')),
    `(${c('debit')} is null or ${c('credit')} is null or ${c('debit')}::numeric = 0 or ${c('credit')}::numeric = 0)`,
    `(${c('amount')} is not null) <> (${c('debit')} is not null or ${c('credit')} is not null)`,
    ...(has('currency_amount') ? [`(${c('currency_amount')} is null or (cur.code is not null and ${isAmount('currency_amount', 'cur')}))`] : []),
    ...(has('currency') ? [`(${c('currency')} is null or cur.code is not null)`] : []),
    ...(has('quantity') ? [`(${c('quantity')} is null or ${c('quantity')} ~ '^-{0,1}[0-9]+([.][0-9]+){0,1}$')`] : []),
    ...['document_date', 'due_date'].filter(has).map((n) => `(${c(n)} is null or ${c(n)} ~ '^[0-9]{4}-[0-9]{2}-[0-9]{2}$')`),
    ...(has('partner_entity')
      ? [`(${c('partner_entity')} is null or ${c('partner_entity')} = any(array[${m.entities.map(() => '?').join(', ')}]::text[]))`]
      : []),
    ...(has('entered_at') ? [`(${c('entered_at')} is null or ${c('entered_at')} !~ '^[0-9]{8}$')`] : []),
    ...m.dims.map((d) => `(${c(d.column)} is null or d${d.slot}.id is not null)`),
    ...(m.replaces ? [`m.ordinal between ${m.replaces.from} and ${m.replaces.to}`] : []),
    ...(has('kind') ? [`${kind} >= 0`] : []),
    ...(has('status') ? [`${status} >= 0`] : []),
  ];
  const bindings = has('partner_entity') ? m.entities : [];
  // Equality that hashes: missing values are one value of their own.
  const key = (name: string): string => `coalesce(${c(name)}, '')`;
  // The planner cannot know how few rows match; it would look each of them up one by one.
  await db.raw('set local enable_nestloop = off; set local enable_mergejoin = off; set local parallel_tuple_cost = 0; set local parallel_setup_cost = 0');
  await db.raw(
    `create unlogged table staged_line as
     select null::integer as row_no, m."entityId" as entity, m.ordinal as period, m."dayPeriod" as day_period, (${status})::smallint as status,
       (case when m.adjustment and ${kind} = ${m.kinds.normal} then ${m.kindAdjustment} else ${kind} end)::smallint as kind, (${side})::smallint as side,
       coalesce(j.id, 0)::smallint as journal, a.id as account, btrim(${c('line')})::integer as line_no, m.day, m."postingDate" as posting_date,
       coalesce(cp.id, 0) as counterparty, coalesce(u.id, 0) as posted_by,
       ${slots.map((d, i) => `${d ? `coalesce(d${i + 1}.id, 0)` : '0'}::integer as d${i + 1}`).join(', ')},
       ${amount} as amount, ${has('currency_amount') ? `${money('currency_amount', 'cur')}::bigint` : 'null::bigint'} as currency_amount,
       (btrim(${c('entry')}) collate "C")::text collate "C" as entry_number, ${c('document')} as document, ${c('currency')} as currency,
       ${c('quantity')}::numeric as quantity, ${c('unit')} as unit, coalesce(${c('description')}, '') as description,
       coalesce(${c('entry_description')}, '') as entry_description, ${c('entered_at')} as entered_at, ${c('approved_by')} as approved_by,
       ${c('reversal_of')} as reversal_of, ${extra} as extra
     from raw_line r
     join quick_moment m on coalesce(m.entity, '') = ${key('entity')} and coalesce(m.date, '') = ${key('date')} and coalesce(m.period, '') = ${key('period')}
       and coalesce(m.year, '') = ${key('year')}
     join quick_account a on a.entity = ${key('entity')} and a.code = btrim(${c('account')})
     cross join lateral (select ${given} as given) g
     ${has('journal') ? `left join quick_journal j on j.code = ${c('journal')}` : 'left join (select null::text as code, 0::smallint as id) j on false'}
     ${has('counterparty') ? `left join quick_counterparty cp on cp.code = ${c('counterparty')}` : 'left join (select 0 as id) cp on false'}
     ${has('posted_by') ? `left join quick_user u on u.code = ${c('posted_by')}` : 'left join (select 0 as id) u on false'}
     ${has('currency') ? `left join quick_currency cur on cur.code = ${c('currency')}` : 'left join (select null::text as code, 0::smallint as digits, 1::numeric as scale) cur on false'}
     ${m.dims.map((d) => `left join member d${d.slot} on d${d.slot}.dimension = ${Number(d.dimension)} and d${d.slot}.code = btrim(${c(d.column)})`).join('\n     ')}
     where ${checks.join('\n       and ')}`,
    bindings,
  );
  await db.raw(
    'set local enable_nestloop = on; set local enable_mergejoin = on; set local parallel_tuple_cost to default; set local parallel_setup_cost to default',
  );
  const [counts] = await rowsOf<{ raw: number; staged: number }>(
    db,
    'select (select count(*) from raw_line)::bigint as raw, (select count(*) from staged_line)::bigint as staged',
  );
  await db.raw('drop table raw_line, quick_moment, quick_account, quick_journal, quick_counterparty, quick_user, quick_currency');
  return counts !== undefined && counts.raw > 0 && counts.raw === counts.staged;
}

/** The number that stands for a word, that of the usual word where there is none, −1 for any other. */
const wordOf = (text: string, words: Record<string, number>, usual: number): string =>
  `(case when ${text} is null then ${usual} ${Object.entries(words)
    .map(([word, n]) => `when lower(${text}) = '${word}' then ${n}`)
    .join(' ')} else -1 end)`;
