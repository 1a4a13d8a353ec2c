import type { Knex } from 'knex';

/** What is set for the whole workspace. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table setting (
      name text primary key,
      value jsonb not null,
      person_name text not null,
      changed_at timestamptz not null default now()
    )`);
}

export async function down(): Promise<void> {
  throw new Error('this migration is not undone; restore a backup instead');
}
