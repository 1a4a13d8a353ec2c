import type { Knex } from 'knex';

/** Sentences that people keep by name, for themselves or for everybody. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table kept_scope (
      id integer generated always as identity primary key,
      person integer not null references person,
      name text not null,
      place text not null check (place in ('trial-balance', 'statements', 'lines')),
      query text not null,
      entities text[] not null,
      shared boolean not null default false,
      opens boolean not null default false,
      created_at timestamptz not null default now(),
      unique (person, name)
    );
    create unique index kept_scope_opens on kept_scope (person, place) where opens;
  `);
}

export async function down(): Promise<void> {
  throw new Error('a migration is not undone; restore a backup instead');
}
