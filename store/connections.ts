import { type Db, rowsOf } from './db';

/** A source ledger from which new entries are pulled. */
export interface ConnectionRow {
  id: number;
  name: string;
  url: string;
  entity: number | null;
  every_minutes: number | null;
  /** Place in the feed up to which everything is loaded. */
  cursor: string | null;
  /** File of rows pulled and not yet loaded, and the place in the feed after them. */
  spool: string | null;
  spool_cursor: string | null;
  spool_bytes: number;
  /** In whose name it loads. */
  person: number | null;
  person_name: string;
  state: 'idle' | 'asked' | 'pulling' | 'loading' | 'failed';
  message: string | null;
  asked_at: Date | null;
  pulled_at: Date | null;
  last_load: number | null;
  /** Whether an owner has allowed an address inside this machine or a private network. */
  private_allowed: boolean;
}

export const listConnections = (db: Db): Promise<(ConnectionRow & { entity_code: string | null })[]> =>
  rowsOf(
    db,
    'select c.*, e.code as entity_code from connection c left join entity e on e.id = c.entity order by c.name',
  );

export const readConnection = (db: Db, id: number): Promise<ConnectionRow | undefined> =>
  db('connection').where({ id }).first() as unknown as Promise<ConnectionRow | undefined>;

export async function insertConnection(
  db: Db,
  row: Pick<ConnectionRow, 'name' | 'url' | 'entity' | 'every_minutes' | 'person' | 'person_name' | 'private_allowed'>,
): Promise<number> {
  const [added] = (await db('connection').insert(row).returning('id')) as { id: number }[];
  return (added as { id: number }).id;
}

export const updateConnection = async (db: Db, id: number, change: Partial<ConnectionRow>): Promise<void> => {
  await db('connection').where({ id }).update(change);
};

export const deleteConnection = (db: Db, id: number): Promise<number> => db('connection').where({ id }).delete();

/** Connections whose turn it is by their schedule. */
export const dueConnections = (db: Db): Promise<ConnectionRow[]> =>
  rowsOf(
    db,
    `select * from connection where state in ('idle', 'failed') and every_minutes is not null
       and coalesce(asked_at, 'epoch') < now() - make_interval(mins => every_minutes) order by id`,
  );

/** Everything pulled up to there is loaded: written in the load's own transaction, so that nothing is loaded twice. */
export const advance = async (db: Db, { id, cursor }: { id: number; cursor: string }, load: number): Promise<void> => {
  await db('connection')
    .where({ id })
    .update({ cursor, spool: null, spool_cursor: null, spool_bytes: 0, state: 'idle', message: null, last_load: load });
};

/** A connection whose load was refused: what was pulled is let go and pulled again next time. */
export const failed = async (db: Db, id: number, message: string): Promise<void> => {
  await db('connection')
    .where({ id })
    .update({ spool: null, spool_cursor: null, spool_bytes: 0, state: 'failed', message });
};

/** Only one process pulls from a connection at a time; the lock goes with the transaction. */
export const takeConnectionLock = async (db: Db, id: number): Promise<boolean> => {
  const [row] = await rowsOf<{ got: boolean }>(db, 'select pg_try_advisory_xact_lock(7240002, ?) as got', [id]);
  return row?.got ?? false;
};
