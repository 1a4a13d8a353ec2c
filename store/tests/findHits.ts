import { type Kept, type TestCode, testOf, valuesOf } from '@/core/tests/list';
import { AT_FIELDS, type At, type AtField, type Facts, type Hit, type Part } from '@/core/tests/test';
import { quoted } from '../duck';
import { TEST_SQL } from './list';
import type { Population } from './population';
import type { Asks, Finding, TestSql } from './words';

/** Runs one test over a population, and what it found, the most unusual first. */

/** So many hits of a test are kept; all of them are counted. */
export const HITS_MAX = 2_000;

/** A hit as it is kept: how unusual it is and of what that is made, in bits, and the lines behind it. */
export interface FoundHit extends Hit {
  score: number;
  /** One of so few; how large beside what is usual. */
  rarity: number;
  size: number;
  lines: number;
  /** Σ of the lines behind it. */
  sum: number;
  /** Changes with any of them. */
  seal: string;
  /** Numbers of the entries behind it, in their order, where several are its point; the first of very many. */
  entries: string[];
  /** What hits are put together by: of an entry its largest account, its party, person, day and journal. */
  about: Readonly<Record<'entry' | 'account' | 'party' | 'person' | 'day' | 'journal', string | null>>;
}

export interface Found {
  /** All hits, of which the first are kept. */
  count: number;
  /** Σ of amounts without signs, by company. */
  amounts: Readonly<Record<string, number>>;
  hits: FoundHit[];
}

const TYPES: Record<AtField, string> = {
  entry: 'varchar',
  line: 'integer',
  account: 'varchar',
  other: 'varchar',
  period: 'integer',
  document: 'varchar',
  party: 'varchar',
  person: 'varchar',
  day: 'varchar',
  series: 'varchar',
};
/** Which column of a line each is. */
const COLUMN: Partial<Record<AtField, string>> = {
  entry: 'entry',
  line: 'line_no',
  account: 'code',
  period: 'period',
  document: 'document',
  party: 'party',
  person: 'person',
};

/**
 * @param kept settings that differ from those that the ledger proposes
 * @param units of how many things it looks at
 */
export async function findHits(
  population: Population,
  code: TestCode,
  { kept, facts, units }: { kept: Readonly<Record<string, Kept>>; facts: Facts; units: number },
): Promise<Found> {
  const test = testOf(code);
  const asks: Asks = { entities: population.entities, rows: population.rows };
  const ask = TEST_SQL[code] as TestSql<never>;
  const finding: Finding = ask(valuesOf(test.params, kept, facts) as never, asks);
  await population.run(
    `create or replace table hit (entity varchar, entry_id integer, ${AT_FIELDS.map((f) => `"${f}" ${TYPES[f]}`).join(', ')},
       degree double, amount bigint, parts varchar, entries varchar)`,
  );
  if (typeof finding === 'string') await population.run(`insert into hit by name ${finding}`);
  else for (const sql of insertsOf(await finding.hits)) await population.run(sql);
  const counted = await population.rows<{ entity: string; n: number; amount: number }>(
    'select entity, count(*) as n, sum(abs(amount))::bigint as amount from hit group by entity',
  );
  const count = counted.reduce((sum, c) => sum + c.n, 0);
  const typical = `(case entity ${population.entities.map((e) => `when ${quoted(e)} then ${facts.of(e).typical}`).join(' ')} else 1 end)`;
  const order = `degree + log2(1 + abs(amount) / ${typical}) desc, entity, ${AT_FIELDS.map((f) => `"${f}"`).join(', ')}`;
  await population.run(
    `create or replace table kept as select (row_number() over (order by ${order}))::integer as no, log2(1 + abs(amount) / ${typical}) as size, *
     from hit order by ${order} limit ${HITS_MAX}`,
  );
  const behind = await linesBehind(population, test.behind);
  const rows = await population.rows<KeptRow>(
    `select k.*, e.account as e_account, e.party as e_party, e.person as e_person, e.day::varchar as e_day, nullif(e.journal, '') as e_journal
     from kept k left join e on e.entity = k.entity and e.entry = k.entry_id order by no`,
  );
  const rarity = Math.max(0, Math.log2((units + 1) / (count + 1)));
  return {
    count,
    amounts: Object.fromEntries(counted.map((c) => [c.entity, c.amount])),
    hits: rows.map((row) => {
      const lines = behind.get(row.no);
      return {
        ...hitOf(row),
        ...{ rarity, size: row.size, score: rarity + row.size + row.degree },
        about: {
          entry: text(row.entry),
          account: text(row.account) ?? row.e_account,
          party: text(row.party) ?? row.e_party,
          person: text(row.person) ?? row.e_person,
          day: row.e_day,
          journal: row.e_journal,
        },
        ...{
          lines: lines?.lines ?? 0,
          sum: lines?.sum ?? 0,
          seal: `${lines?.lines ?? 0}/${lines?.sum ?? 0}/${lines?.seal ?? '0'}`,
          entries: lines?.numbers?.split('\n') ?? [],
        },
      };
    }),
  };
}

type KeptRow = {
  no: number;
  entity: string;
  degree: number;
  size: number;
  amount: number;
  parts: string;
  entries: string | null;
  e_account: string | null;
  e_party: string | null;
  e_person: string | null;
  e_day: string | null;
  e_journal: string | null;
} & Record<AtField, string | number | null>;

const text = (value: string | number | null): string | null => (value === null ? null : String(value));

function hitOf(row: KeptRow): Hit {
  const at = Object.fromEntries(AT_FIELDS.flatMap((f) => (row[f] === null ? [] : [[f, row[f]]]))) as At;
  return {
    ...{ entity: row.entity, at, degree: row.degree, amount: row.amount },
    parts: JSON.parse(row.parts) as Record<string, Part>,
  };
}

interface Behind {
  lines: number;
  sum: number;
  seal: string;
  numbers: string | null;
}
/** So many entries of a hit are told by their numbers. */
const ENTRIES_TOLD = 24;

/** How many lines are behind each hit that is kept, what they come to, and what changes with any of them. */
async function linesBehind(population: Population, by: readonly AtField[] | 'entries') {
  const on =
    by === 'entries'
      ? 'p.entry = k.entry_id'
      : by
          .flatMap((f) => (f === 'entry' ? ['p.entry = k.entry_id'] : COLUMN[f] ? [`p.${COLUMN[f]} = k."${f}"`] : []))
          .join(' and ');
  if (on === '') return new Map<number, Behind>();
  const kept =
    by === 'entries'
      ? `(select no, entity, unnest(string_split(entries, ','))::integer as entry_id from kept where entries is not null)`
      : 'kept';
  const numbers =
    by === 'entries'
      ? `array_to_string(list_sort(list(distinct p.number))[1:${ENTRIES_TOLD}], chr(10))`
      : 'null::varchar';
  const rows = await population.rows<Behind & { no: number }>(
    `select k.no, ${numbers} as numbers, count(*) as lines, sum(p.amount)::bigint as sum, bit_xor(md5_number_lower(concat_ws(chr(1),
         p.number, p.line_no, p.code, p.day, p.period, p.amount, p.status, coalesce(p.description, ''), coalesce(p.party, ''))))::varchar as seal
     from ${kept} k join p on p.entity = k.entity and ${on} ${by === 'entries' ? '' : 'and p.within'} group by k.no`,
  );
  return new Map(rows.map((r) => [r.no, r]));
}

const INSERTED_AT_ONCE = 300;

function* insertsOf(hits: readonly Hit[]): Generator<string> {
  const sql = (value: string | number | undefined): string =>
    value === undefined ? 'null' : typeof value === 'number' ? String(value) : quoted(value);
  for (let at = 0; at < hits.length; at += INSERTED_AT_ONCE)
    yield `insert into hit by name select * from (values ${hits
      .slice(at, at + INSERTED_AT_ONCE)
      .map(
        (h) =>
          `(${[sql(h.entity), ...AT_FIELDS.map((f) => sql(h.at[f])), String(h.degree), String(h.amount), quoted(JSON.stringify(h.parts))].join(', ')})`,
      )
      .join(', ')}) v(entity, ${AT_FIELDS.map((f) => `"${f}"`).join(', ')}, degree, amount, parts)`;
}
