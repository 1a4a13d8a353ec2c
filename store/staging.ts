import { type Db, rowsOf } from './db';

/** A line that has passed its own checks, with every name turned into a key. */
export interface StagedLine {
  row: number;
  entity: number;
  entryNumber: string;
  line: number;
  account: number;
  postingDate: string;
  day: string;
  period: number;
  dayPeriod: number;
  status: number;
  kind: number;
  side: number;
  amount: number;
  journal: number;
  counterparty: number;
  postedBy: number;
  dims: number[];
  currency: string | null;
  currencyAmount: number | null;
  quantity: string | null;
  unit: string | null;
  document: string | null;
  description: string;
  entryDescription: string;
  enteredAt: string | null;
  approvedBy: string | null;
  reversalOf: string | null;
  source: string | null;
  extra: string | null;
}

export type Dictionary = 'journal' | 'counterparty' | 'ledger_user';
export type Dictionaries = Record<Dictionary, Map<string, number>>;

/** All codes of the small dictionaries with their ids. */
export async function dictionaries(db: Db): Promise<Dictionaries> {
  const read = async (table: Dictionary): Promise<Map<string, number>> =>
    new Map(
      (await rowsOf<{ id: number; code: string }>(db, `select id, code from ${table}`)).map((r) => [r.code, r.id]),
    );
  const [journal, counterparty, ledger_user] = await Promise.all([
    read('journal'),
    read('counterparty'),
    read('ledger_user'),
  ]);
  return { journal, counterparty, ledger_user };
}

/** Id of a code in a dictionary; it is added if new. A code that no line uses is seen nowhere. */
export async function idOfCode(db: Db, table: Dictionary, code: string, name: string): Promise<number> {
  const named = table !== 'ledger_user';
  const [row] = await rowsOf<{ id: number }>(
    db,
    `insert into ${table} (code${named ? ', name' : ''}) values (?${named ? ', ?' : ''})
     on conflict (code) do update set code = excluded.code returning id`,
    named ? [code, name] : [code],
  );
  return (row as { id: number }).id;
}

/** All members of some dimensions. */
export const membersOf = (
  db: Db,
  dimensions: readonly number[],
): Promise<{ dimension: number; code: string; id: number }[]> =>
  rowsOf(db, 'select dimension, code, id from member where dimension = any(?::integer[])', [dimensions]);
