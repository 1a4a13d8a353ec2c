import type { Knex } from 'knex';

/** What the codes of a statutory scheme are called, in the order in which the scheme has them. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table scheme_caption (
      id integer generated always as identity primary key,
      load integer not null references load,
      replaced_by integer not null default 2147483647,
      scheme text not null,
      code text not null,
      name text not null,
      names jsonb not null default '{}'
    );
    create index scheme_caption_code on scheme_caption (scheme, code);
  `);
}

export async function down(): Promise<void> {
  throw new Error('a migration is not undone; restore a backup instead');
}
