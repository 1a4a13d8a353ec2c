import type { Knex } from 'knex';

/** What each person has set for themselves, such as the columns of a sheet. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table preference (
      person integer not null references person, name text not null, value jsonb not null, primary key (person, name)
    )`);
}

export async function down(): Promise<void> {
  throw new Error('a migration is not undone; restore a backup instead');
}
