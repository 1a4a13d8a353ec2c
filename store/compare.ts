import { LINE_FIELDS, type LineField } from '@/core/lineFields';
import { type Db, rowsOf } from './db';

/** Two states of the ledger: as of one load and as of a later one. */
export interface Between {
  entities: number[];
  from: number;
  to: number;
}

/** What a comparison looks at: all that a line has but what it is matched by, in SQL over `s` and its entry `e`. */
const MATCHED = ['entity', 'entry', 'line'];
const SLOTS = [1, 2, 3, 4, 5, 6, 7, 8].map((slot) => `d${slot}`);
const FIELDS = LINE_FIELDS.filter((f) => f.digest !== null && !MATCHED.includes(f.name));
const CONTENT = FIELDS.flatMap((f) => (f.name === 'dims' ? SLOTS : [f.column]));

const columnSql = (f: LineField): string =>
  f.name === 'entryDescription'
    ? 'e.description as entry_description'
    : f.stored === 'entry'
      ? `e.${f.column}`
      : f.stored === 'extra'
        ? `s.extra->>'${f.column}' as ${f.column}`
        : f.name === 'dims'
          ? SLOTS.map((slot) => `s.${slot}`).join(', ')
          : `s.${f.column}`;

const COLUMNS = `s.entity, s.entry_number, s.line_no, s.entry, ${FIELDS.map(columnSql).join(', ')}`;

/** Lines that differ: `g` as they were and are no more, `f` as they are now; matched by entity, entry and line number. */
function differing({ entities, from, to }: Between): { sql: string; bindings: unknown[] } {
  const sql = `
    gone as (select ${COLUMNS} from line s join entry e on e.id = s.entry
      where s.entity = any(?::smallint[]) and s.load <= ? and s.replaced_by > ? and s.replaced_by <= ?),
    fresh as (select ${COLUMNS} from line s join entry e on e.id = s.entry
      where s.entity = any(?::smallint[]) and s.load > ? and s.load <= ? and s.replaced_by > ?),
    diff as (
      select coalesce(f.entity, g.entity) as entity, coalesce(f.entry_number, g.entry_number) as entry_number, coalesce(f.line_no, g.line_no) as line_no,
        g.entry as gone_entry, f.entry as fresh_entry, g.account as gone_account, f.account as fresh_account,
        g.amount as gone_amount, f.amount as fresh_amount,
        case when g.entry is null then 'added' when f.entry is null then 'removed' else 'changed' end as change
      from gone g full join fresh f on f.entity = g.entity and f.entry_number = g.entry_number and f.line_no = g.line_no
      where g.entry is null or f.entry is null
        or (${CONTENT.map((c) => `g.${c}`).join(', ')}) is distinct from (${CONTENT.map((c) => `f.${c}`).join(', ')}))`;
  return { sql, bindings: [entities, from, from, to, entities, from, to, to] };
}

export interface DifferingLine {
  entity: number;
  entry_number: string;
  line_no: number;
  change: 'added' | 'changed' | 'removed';
  gone_entry: number | null;
  fresh_entry: number | null;
}

export async function differingLines(
  db: Db,
  between: Between,
  offset: number,
  limit: number,
): Promise<DifferingLine[]> {
  const { sql, bindings } = differing(between);
  return rowsOf(
    db,
    `with ${sql} select entity, entry_number, line_no, change, gone_entry, fresh_entry from diff order by 1, 2, 3 offset ? limit ?`,
    [...bindings, offset, limit],
  );
}

export interface DifferenceSum {
  entity: number;
  account: number;
  added: number;
  changed: number;
  removed: number;
  before: number;
  after: number;
}

/** Per account: how many lines were added, changed and removed, and the sums of those lines before and after. */
export async function differencesByAccount(db: Db, between: Between): Promise<DifferenceSum[]> {
  const { sql, bindings } = differing(between);
  return rowsOf(
    db,
    `with ${sql}, legs as (
       select entity, gone_account as account, change, 0::bigint as after, gone_amount as before, change <> 'changed' or fresh_account <> gone_account as whole from diff where gone_account is not null
       union all
       select entity, fresh_account, change, fresh_amount, 0, true from diff where fresh_account is not null)
     select entity, account, count(*) filter (where change = 'added')::integer as added,
       count(*) filter (where change = 'changed' and whole)::integer as changed, count(*) filter (where change = 'removed')::integer as removed,
       sum(before)::bigint as before, sum(after)::bigint as after
     from legs group by 1, 2 order by 1, 2`,
    bindings,
  );
}

/** How many lines differ in all, by kind of change. */
export async function countDifferences(
  db: Db,
  between: Between,
): Promise<Record<'added' | 'changed' | 'removed', number>> {
  const { sql, bindings } = differing(between);
  const rows = await rowsOf<{ change: 'added' | 'changed' | 'removed'; n: number }>(
    db,
    `with ${sql} select change, count(*)::integer as n from diff group by 1`,
    bindings,
  );
  const counts = { added: 0, changed: 0, removed: 0 };
  for (const { change, n } of rows) counts[change] = n;
  return counts;
}
