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
  load: number;
}

/** Documents of those numbers, as of the newest load. */
export const documentsNumbered = (db: Db, entities: number[], numbers: string[]): Promise<DocumentRow[]> =>
  rowsOf(
    db,
    `select d.entity, d.number, d.type, d.date, d.due_date, d.currency, d.amount, d.description, d.load, c.code as counterparty_code, c.name as counterparty_name
     from document d left join counterparty c on c.id = d.counterparty
     where d.entity = any(?::smallint[]) and d.number = any(?::text[]) and d.replaced_by = ${NEVER}`,
    [entities, numbers],
  );

/** Links from or to any of those documents. */
export const linksOf = (db: Db, entity: number, numbers: string[]): Promise<{ source: string; target: string; applied: number; date: string }[]> =>
  rowsOf(
    db,
    `select source, target, applied, date from document_link
     where entity = ? and replaced_by = ${NEVER} and (source = any(?::text[]) or target = any(?::text[])) order by date, target limit 1000`,
    [entity, numbers, numbers],
  );

export const attachmentsOf = (db: Db, entity: number, number: string): Promise<{ name: string; digest: string; bytes: number }[]> =>
  rowsOf(db, `select name, digest, bytes from attachment where entity = ? and document = ? and replaced_by = ${NEVER} order by name`, [entity, number]);

export const attachmentByDigest = async (db: Db, entities: number[], digest: string): Promise<{ name: string } | undefined> =>
  (await rowsOf<{ name: string }>(db, 'select name from attachment where entity = any(?::smallint[]) and digest = ? limit 1', [entities, digest]))[0];
