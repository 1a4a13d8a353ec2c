import type { Knex } from 'knex';

/** Pages of panels, each from a report that is kept. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table overview (
      id integer generated always as identity primary key,
      person integer not null references person,
      name text not null,
      -- Each with its report, how it is shown and where it stands.
      panels jsonb not null,
      -- What takes the place of each report's own window, company or member.
      scope jsonb not null default '{}',
      shared boolean not null default false,
      removed_at timestamptz,
      at timestamptz not null default now()
    );
    create unique index overview_name on overview (person, name) where removed_at is null;
  `);
}

export async function down(): Promise<void> {
  throw new Error('this migration is not undone; restore a backup instead');
}
