import { CHANGING } from '@/core/chain';
import { RECEIVING, SETTLING } from '@/core/openItems';
import { type Db, NEVER, rowsOf } from './db';

export interface DocumentRow {
  entity: number;
  number: string;
  type: string;
  date: string;
  due_date: string | null;
  currency: string;
  amount: number;
  description: string;
  counterparty_code: string | null;
  counterparty_name: string | null;
  /** The control account that it is on. */
  account: number | null;
  load: number;
}

/** Documents of those numbers, as of the newest load. */
export const documentsNumbered = (db: Db, entities: number[], numbers: string[]): Promise<DocumentRow[]> =>
  rowsOf(
    db,
    `select d.entity, d.number, d.type, d.date, d.due_date, d.currency, d.amount, d.description, d.load, coalesce(d.account, k.account) as account, c.code as counterparty_code, c.name as counterparty_name
     from document d left join counterparty c on c.id = d.counterparty
     left join document_control k on k.entity = d.entity and k.number = d.number
     where d.entity = any(?::smallint[]) and d.number = any(?::text[]) and d.replaced_by = ${NEVER}`,
    [entities, numbers],
  );

/** A document of a control account with what was applied to it, and by it, up to a day. */
export interface ItemRow extends Omit<DocumentRow, 'entity'> {
  account: number;
  settled: number;
  settled_here: number;
  settles: number;
}

interface Asked {
  entity: number;
  accounts: number[];
  at: string;
  asOf: number;
  counterparties: string[] | null;
  limit: number;
}

/** Documents on control accounts up to a day, as of a load: what they are joined with, and which they are. */
export const ON_CONTROLS = {
  joined: `left join counterparty c on c.id = d.counterparty
       left join document_control k on k.entity = d.entity and k.number = d.number`,
  where: `d.entity = ? and coalesce(d.account, k.account) = any(?::integer[]) and d.date <= ? and d.load <= ? and d.replaced_by > ?
         and (?::text[] is null or c.code = any(?::text[]))`,
  bound: ({ entity, accounts, at, asOf, counterparties }: Omit<Asked, 'limit'>): unknown[] => [
    ...[entity, accounts, at, asOf, asOf, counterparties, counterparties],
  ],
};

/** Documents on some accounts up to a day, with what was applied to them and by them, as of a load. */
const ITEMS = `with applied as (
       select l.source, l.target, l.applied, o.number is not null as here
       from document_link l left join (select distinct number from document where entity = ? and account is not null
         union select number from document_control where entity = ?) o on o.number = l.target
       where l.entity = ? and l.load <= ? and l.replaced_by > ? and l.date <= ?),
     settled as (select source, sum(applied)::bigint as settled, sum(applied) filter (where here)::bigint as settled_here from applied group by 1),
     settles as (select target, sum(applied)::bigint as settles from applied group by 1),
     items as (
       select d.number, d.type, d.date, d.due_date, d.currency, d.amount, d.description, d.load, coalesce(d.account, k.account) as account, c.code as counterparty_code,
         c.name as counterparty_name, coalesce(s.settled, 0) as settled, coalesce(s.settled_here, 0) as settled_here, coalesce(t.settles, 0) as settles
       from document d ${ON_CONTROLS.joined}
       left join settled s on s.source = d.number left join settles t on t.target = d.number
       where ${ON_CONTROLS.where})`;
const itemsAsked = (asked: Omit<Asked, 'limit'>): unknown[] => [
  ...[asked.entity, asked.entity, asked.entity, asked.asOf, asked.asOf, asked.at, ...ON_CONTROLS.bound(asked)],
];

/** Documents on some accounts up to a day, oldest first, as of a load. */
export const itemsOn = (db: Db, asked: Asked): Promise<ItemRow[]> =>
  rowsOf(db, `${ITEMS} select * from items order by date, number limit ?`, [...itemsAsked(asked), asked.limit]);

/** What is open of the documents on some accounts together, of those in one currency. Settling ones count against it (`openOf`). */
export async function openOn(db: Db, asked: Omit<Asked, 'limit'>, currency: string): Promise<number> {
  const [row] = await rowsOf<{ open: number }>(
    db,
    `${ITEMS} select coalesce(sum(case when type ~* ? then settles + settled_here - amount else amount - settled end), 0)::bigint as open
     from items where currency = ?`,
    [...itemsAsked(asked), SETTLING.source, currency],
  );
  return row?.open ?? 0;
}

/** A line of a document as it was written, in the document's currency; quantity and price as decimal numbers. */
export interface DocumentLineRow {
  line_no: number;
  item: string;
  description: string;
  quantity: string | null;
  unit: string;
  unit_price: string | null;
  amount: number;
  tax_code: string;
  tax_amount: number | null;
  account: string;
}

/** What a document is made of, as of the newest load. */
export const documentLines = (db: Db, entity: number, document: string): Promise<DocumentLineRow[]> =>
  rowsOf(
    db,
    `select line_no, item, description, quantity::text as quantity, unit, unit_price::text as unit_price, amount, tax_code, tax_amount, account
     from document_line where entity = ? and document = ? and replaced_by = ${NEVER} order by line_no`,
    [entity, document],
  );

/** The currencies of a company's documents that are in another one than its books, by number. */
export const foreignDocuments = async (db: Db, entity: number, own: string): Promise<ReadonlyMap<string, string>> =>
  new Map(
    (
      await rowsOf<{ number: string; currency: string }>(
        db,
        `select number, currency from document where entity = ? and currency <> ? and replaced_by = ${NEVER}`,
        [entity, own],
      )
    ).map((row) => [row.number, row.currency]),
  );

/** Accounts that documents are on. */
export const controlAccounts = (db: Db): Promise<{ entity: number; account: number }[]> =>
  rowsOf(
    db,
    `select entity, account from document where account is not null and replaced_by = ${NEVER}
     union select entity, account from document_control order by 1, 2`,
  );

/**
 * Finds the control account of documents that do not say it: the balance sheet account on which the lines that bear their
 * number come to their amount. Of several the one on which most documents are. An account of cash controls nothing, and
 * what came in or went out at once, as a grant with its letter, was never owed.
 * @param brought whether the load brought the documents, which are held against all lines, or lines, which alone are looked at
 */
export const findControlAccounts = async (db: Db, load: number, brought: 'documents' | 'lines'): Promise<void> => {
  await rowsOf(
    db,
    `with lacking as (
       select d.entity, d.number, d.amount, d.load, d.type ~* ? as settles from document d
       where d.account is null and d.replaced_by = ${NEVER}
         and not exists (select 1 from document_control k where k.entity = d.entity and k.number = d.number)),
     sums as (
       select l.entity, l.document as number, l.account, abs(sum(l.amount)) as amount,
         bool_or(a.flow = 'cash' or exists (select 1 from holding h where h.entity = a.entity and h.account = a.code)) as cash
       from line l join account a on a.id = l.account and a.type in ('asset', 'liability')
       where l.replaced_by = ${NEVER} and l.document is not null and exists (select 1 from lacking)
         and ${brought === 'lines' ? 'l.entry in (select id from entry where load = ?)' : 'exists (select 1 from lacking where load = ?)'}
       group by 1, 2, 3),
     fitting as (
       select s.entity, s.number, s.account, count(*) over (partition by s.entity, s.account) as others
       from lacking d join sums s on s.entity = d.entity and s.number = d.number and s.amount = d.amount
       where s.cash is not true and (d.settles or not exists (
         select 1 from sums c where c.entity = d.entity and c.number = d.number and c.cash and c.amount = d.amount)))
     insert into document_control (entity, number, account)
     select distinct on (entity, number) entity, number, account from fitting order by entity, number, others desc, account
     on conflict (entity, number) do update set account = excluded.account`,
    [SETTLING.source, load],
  );
};

/** What became of an order, by the documents that followed it. In the currency asked for. */
export interface OrderProgress {
  number: string;
  received: number;
  invoiced: number;
  /** What was paid, or credited, of those invoices. */
  paid: number;
}

/** How far orders are, by their numbers; of such as have no document nothing is told. */
export const progressOfOrders = (
  db: Db,
  { entity, numbers, currency, asOf }: { entity: number; numbers: string[]; currency: string; asOf: number },
): Promise<OrderProgress[]> =>
  rowsOf(
    db,
    `with there as (select number, type, amount from document where entity = ? and currency = ? and load <= ? and replaced_by > ?),
     links as (select source, target, applied from document_link where entity = ? and load <= ? and replaced_by > ?),
     after as (select l.source as number, l.target, l.applied, d.type, d.amount from links l join there d on d.number = l.target
       where l.source = any(?::text[]) and d.type !~* ?),
     billed as (select number, target, sum(applied) as applied from after where type !~* ? and type !~* ? group by 1, 2),
     settled as (select b.number, sum(l.applied) as applied from billed b join links l on l.source = b.target
       join there d on d.number = l.target and d.type ~* ? group by 1)
     select o.number,
       coalesce((select sum(a.amount) from (select distinct target, amount from after where after.number = o.number and type ~* ?) a), 0)::bigint as received,
       coalesce((select sum(b.applied) from billed b where b.number = o.number), 0)::bigint as invoiced,
       coalesce((select s.applied from settled s where s.number = o.number), 0)::bigint as paid
     from there o where o.number = any(?::text[])`,
    [
      ...[entity, currency, asOf, asOf, entity, asOf, asOf, numbers, CHANGING.source],
      ...[RECEIVING.source, SETTLING.source, SETTLING.source, RECEIVING.source, numbers],
    ],
  );

/** Other documents to which the same file is attached. */
export const sharingFile = (
  db: Db,
  entities: number[],
  digests: string[],
): Promise<{ digest: string; document: string }[]> =>
  rowsOf(
    db,
    `select distinct digest, document from attachment where entity = any(?::smallint[]) and digest = any(?::text[]) and replaced_by = ${NEVER} order by 2`,
    [entities, digests],
  );

/** Links from or to any of those documents. */
export const linksOf = (
  db: Db,
  entity: number,
  numbers: string[],
): Promise<{ source: string; target: string; applied: number; date: string }[]> =>
  rowsOf(
    db,
    `select source, target, applied, date from document_link
     where entity = ? and replaced_by = ${NEVER} and (source = any(?::text[]) or target = any(?::text[])) order by date, target limit 1000`,
    [entity, numbers, numbers],
  );

export const attachmentsOf = (
  db: Db,
  entity: number,
  number: string,
): Promise<{ name: string; digest: string; bytes: number }[]> =>
  rowsOf(
    db,
    `select name, digest, bytes from attachment where entity = ? and document = ? and replaced_by = ${NEVER} order by name`,
    [entity, number],
  );

export const attachmentByDigest = async (
  db: Db,
  entities: number[],
  digest: string,
): Promise<{ name: string } | undefined> =>
  (
    await rowsOf<{ name: string }>(
      db,
      'select name from attachment where entity = any(?::smallint[]) and digest = ? limit 1',
      [entities, digest],
    )
  )[0];

/** Takes the place of what earlier loads said of the links to documents that a load brings anew. */
export const replaceLinks = async (db: Db, load: number): Promise<void> => {
  await rowsOf(
    db,
    `update document_link set replaced_by = ? where load <> ? and replaced_by = ${NEVER}
       and (entity, target) in (select entity, number from document where load = ?)`,
    [load, load, load],
  );
};
