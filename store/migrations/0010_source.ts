import type { Knex } from 'knex';

/** The unit or system that raised an entry, so that a question is put to the right people. */
export async function up(db: Knex): Promise<void> {
  await db.raw('alter table entry add column source text');
}

export async function down(): Promise<void> {
  throw new Error('a migration is not undone; restore a backup instead');
}
