import type { Knex } from 'knex';

/** What files attached to documents say inside, so that they are found by it. A job reads the files. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table file_text (
      digest text primary key,
      body text not null,
      read_at timestamptz not null default now()
    );
  `);
}

export async function down(): Promise<void> {
  throw new Error('a migration is not undone; restore a backup instead');
}
