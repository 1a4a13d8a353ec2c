import type { Knex } from 'knex';

/** Of a pack a schedule may send some reports only; none named: all. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`alter table schedule add column parts integer[] not null default '{}'`);
}

export async function down(): Promise<void> {
  throw new Error('this migration is not undone; restore a backup instead');
}
