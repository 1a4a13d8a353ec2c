import type { Knex } from 'knex';

/** Kept sentences lie in folders, and each person has some of them at hand. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    alter table kept_scope add folder text not null default '';
    create table kept_scope_at_hand (
      person integer not null references person,
      kept_scope integer not null references kept_scope on delete cascade,
      primary key (person, kept_scope)
    );
  `);
}

export async function down(): Promise<void> {
  throw new Error('a migration is not undone; restore a backup instead');
}
