import { type Db, rowsOf } from './db';

export interface EntryHead {
  id: number;
  entity: string;
  number: string;
  load: number;
  replaced_by: number;
}

const HEAD_FIELDS = 'e.id, n.code as entity, e.number, e.load, e.replaced_by';

/** An entry by its id, or by the number it bears in its entity as of a load. */
export async function findEntry(
  db: Db,
  by: { id: number } | { entity: string; number: string; asOf: number },
): Promise<EntryHead | null> {
  if ('number' in by) return (await findEntries(db, { ...by, numbers: [by.number] })).get(by.number) ?? null;
  const [found] = await rowsOf<EntryHead>(
    db,
    `select ${HEAD_FIELDS} from entry e left join cash_books c on c.books = e.entity left join proposed_books p on p.books = e.entity
       join entity n on n.id = coalesce(c.entity, p.entity, e.entity)
     where e.id = ?`,
    [by.id],
  );
  return found ?? null;
}

/** Entries of one company by their numbers. It has few books, and each of them is looked up by the numbers. */
export async function findEntries(
  db: Db,
  { entity, numbers, asOf }: { entity: string; numbers: readonly string[]; asOf: number },
): Promise<Map<string, EntryHead>> {
  const found = await rowsOf<EntryHead>(
    db,
    `select distinct on (e.number) ${HEAD_FIELDS}
     from (select code, id as books from entity where code = ?
       union all select n.code, c.books from entity n join cash_books c on c.entity = n.id where n.code = ?
       union all select n.code, p.books from entity n join proposed_books p on p.entity = n.id where n.code = ?) n
     join entry e on e.entity = n.books
     where e.number = any(?::text[]) and e.load <= ? and e.replaced_by > ? order by e.number, e.load desc`,
    [entity, entity, entity, numbers, asOf, asOf],
  );
  return new Map(found.map((e) => [e.number, e]));
}

/** Entries that have a line on an account of this code, of those that are named; by entity and number, and by id. */
export async function entriesOnAccount(
  db: Db,
  account: string,
  named: { ids: readonly number[]; numbers: readonly (readonly [entity: string, number: string])[] },
): Promise<{ id: number; entity: string; number: string; line: number }[]> {
  return rowsOf(
    db,
    `select e.id, n.code as entity, e.number, s.line_no as line
     from entry e join entity n on n.id = e.entity join line s on s.entry = e.id and s.entity = e.entity
       join account a on a.id = s.account
     where a.code = ? and (e.id = any(?::integer[]) or (n.code, e.number) in
       (select * from unnest(?::text[], ?::text[])))`,
    [account, named.ids, named.numbers.map(([entity]) => entity), named.numbers.map(([, number]) => number)],
  );
}
