import type { Knex } from 'knex';

/** What a reader may see beyond whole entities: members of dimensions, with all beneath them, and accounts. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    alter table person add column members jsonb not null default '{}';
    alter table person add column accounts text`);
}

export async function down(): Promise<void> {
  throw new Error('a migration is not undone; restore a backup instead');
}
