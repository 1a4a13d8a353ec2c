import type { Knex } from 'knex';

/** Outlines of statements that somebody made or changed; every change is a version, and none is lost. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table outline (
      id integer generated always as identity primary key,
      entity smallint not null references entity, code text not null, version integer not null,
      outline jsonb not null, person_name text not null, created_at timestamptz not null default now(), removed boolean not null default false,
      unique (entity, code, version)
    );
  `);
}

export async function down(): Promise<void> {
  throw new Error('a migration is not undone; restore a backup instead');
}
