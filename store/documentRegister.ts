import { CHANGING, PROMISING } from '@/core/chain';
import { patternOfFolded } from '@/core/folded';
import { SETTLING } from '@/core/openItems';
import type { Sought } from '@/core/searchWords';
import { type Db, rowsOf } from './db';
import type { DocumentRow } from './documents';

/** Every document of a company with what was applied to it and by it; and documents that lines name and nobody delivered. */

export interface RegisterRow extends Omit<DocumentRow, 'entity' | 'load'> {
  /** By how much change orders changed what it is worth; null where there is none. */
  changed: number | null;
  /** What others applied to it, change orders left out. */
  used: number;
  /** What it applied to others. */
  settles: number;
}

export interface RegisterAsked {
  entity: number;
  asOf: number;
  types: readonly string[] | null;
  party: string | null;
  words: readonly Sought[];
  from: string | null;
  to: string | null;
  /** Of which no line and no entry bears the number. */
  unbooked: boolean;
  limit: number;
  offset: number;
}

const IS = 'd.load <= ? and d.replaced_by > ?';

/** Conditions on documents `d` and their parties `c`. */
function limited({ types, party, words, from, to, unbooked, entity, asOf }: RegisterAsked): [string[], unknown[]] {
  const where: string[] = [];
  const values: unknown[] = [];
  const add = (sql: string, ...more: unknown[]): void => {
    where.push(sql);
    values.push(...more);
  };
  if (types) add('d.type = any(?::text[])', [...types]);
  if (party !== null) add('c.code = ?', party);
  if (from !== null) add('d.date >= ?::date', from);
  if (to !== null) add('d.date <= ?::date', to);
  for (const { text } of words)
    if (text !== null)
      add(`concat_ws(chr(1), d.number, d.type, d.description, c.code, c.name) ~ ?`, patternOfFolded(text));
  if (unbooked)
    add(
      `not (d.type ~* ? and not d.type ~* ?)
       and not exists (select 1 from line l where l.entity = ? and l.document = d.number and l.load <= ? and l.replaced_by > ?)
       and not exists (select 1 from entry e where e.entity = ? and e.number = d.number and e.load <= ? and e.replaced_by > ?)`,
      ...[PROMISING.source, SETTLING.source, entity, asOf, asOf, entity, asOf, asOf],
    );
  return [where, values];
}

export async function documentRegister(db: Db, asked: RegisterAsked): Promise<{ rows: RegisterRow[]; count: number }> {
  const { entity, asOf, limit, offset } = asked;
  const [where, values] = limited(asked);
  const from = `from document d left join counterparty c on c.id = d.counterparty
    where d.entity = ? and ${IS}${where.map((sql) => ` and ${sql}`).join('')}`;
  const own = [entity, asOf, asOf, ...values];
  const rows = await rowsOf<RegisterRow>(
    db,
    `with shown as (
       select d.number, d.type, d.date, d.due_date, d.currency, d.amount, d.description, c.code as counterparty_code,
         c.name as counterparty_name, coalesce(d.account,
           (select k.account from document_control k where k.entity = d.entity and k.number = d.number)) as account
       ${from} order by d.date desc, d.number limit ? offset ?),
     links as (
       select l.source, l.target, l.applied, t.amount, t.type ~* ? as changing from document_link l
       left join document t on t.entity = l.entity and t.number = l.target and t.load <= ? and t.replaced_by > ?
       where l.entity = ? and l.load <= ? and l.replaced_by > ?
         and (l.source in (select number from shown) or l.target in (select number from shown)))
     select s.*,
       (select sum(case when k.applied < 0 then -k.applied else k.amount end)::bigint from links k where k.source = s.number and k.changing) as changed,
       coalesce((select sum(k.applied)::bigint from links k where k.source = s.number and k.changing is not true), 0) as used,
       coalesce((select sum(k.applied)::bigint from links k where k.target = s.number), 0) as settles
     from shown s order by s.date desc, s.number`,
    [...own, limit, offset, CHANGING.source, asOf, asOf, entity, asOf, asOf],
  );
  const [counted] = await rowsOf<{ count: number }>(db, `select count(*)::integer as count ${from}`, own);
  return { rows, count: counted?.count ?? 0 };
}

/** How many documents of each kind a company has. */
export const documentKinds = (
  db: Db,
  { entity, asOf }: Pick<RegisterAsked, 'entity' | 'asOf'>,
): Promise<{ type: string; count: number }[]> =>
  rowsOf(
    db,
    `select d.type, count(*)::integer as count from document d where d.entity = ? and ${IS} group by 1 order by 1`,
    [entity, asOf, asOf],
  );

/** What documents of others, or of nobody, settled of some documents of a party: as one payment of many invoices does. */
export const settledByOthers = (
  db: Db,
  { entity, asOf, party, numbers }: { entity: number; asOf: number; party: string; numbers: readonly string[] },
): Promise<{ number: string; type: string; date: string; description: string; currency: string; applied: number }[]> =>
  rowsOf(
    db,
    `select t.number, t.type, l.date, t.description, t.currency, sum(l.applied)::bigint as applied
     from document_link l join document t on t.entity = l.entity and t.number = l.target and t.load <= ? and t.replaced_by > ?
     left join counterparty c on c.id = t.counterparty
     where l.entity = ? and l.load <= ? and l.replaced_by > ? and l.source = any(?::text[]) and c.code is distinct from ?
       and t.type ~* ? group by 1, 2, 3, 4, 5`,
    [asOf, asOf, entity, asOf, asOf, [...numbers], party, SETTLING.source],
  );

/** What lines say of a document that nobody delivered. */
interface NotDelivered extends Omit<RegisterRow, 'type' | 'currency' | 'account' | 'changed' | 'used' | 'settles'> {
  type: string | null;
  lines: number;
}

/** Documents that lines of a company name and that nobody delivered; with what those lines say of them. */
export async function documentsNotDelivered(
  db: Db,
  { entity, asOf, from, to, party, words, limit, offset }: RegisterAsked,
): Promise<{ rows: NotDelivered[]; count: number }> {
  const days = [...(from === null ? [] : [from]), ...(to === null ? [] : [to])];
  const within = `${from === null ? '' : ' and s.day >= ?::date'}${to === null ? '' : ' and s.day <= ?::date'}`;
  const named = `select s.document as number, min(s.extra->>'document_type') as type, min(s.day) as date, min(s.counterparty) as counterparty,
      count(*)::integer as lines, (sum(abs(s.amount)) / 2)::bigint as amount, min(s.description) as description
    from line s where s.entity = ? and s.document is not null and s.load <= ? and s.replaced_by > ?${within}
    group by 1`;
  const more: unknown[] = [];
  const also = words.flatMap(({ text }) => {
    if (text === null) return [];
    more.push(patternOfFolded(text));
    return [`concat_ws(chr(1), n.number, n.type, n.description, c.code, c.name) ~ ?`];
  });
  if (party !== null) {
    also.push('c.code = ?');
    more.push(party);
  }
  const rest = `from (${named}) n left join counterparty c on c.id = n.counterparty
    where not exists (select 1 from document d where d.entity = ? and d.number = n.number and ${IS})${also.map((sql) => ` and ${sql}`).join('')}`;
  const bindings = [entity, asOf, asOf, ...days, entity, asOf, asOf, ...more];
  const rows = await rowsOf<NotDelivered>(
    db,
    `select n.number, n.type, n.date, null as due_date, c.code as counterparty_code, c.name as counterparty_name, n.lines, n.amount, n.description ${rest}
     order by n.date desc, n.number limit ? offset ?`,
    [...bindings, limit, offset],
  );
  const [counted] = await rowsOf<{ count: number }>(db, `select count(*)::integer as count ${rest}`, bindings);
  return { rows, count: counted?.count ?? 0 };
}
