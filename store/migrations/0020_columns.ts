import type { Knex } from 'knex';

/**
 * Lines once more, column by column, in files beside the database (docs/decisions/0020). The tables here say which files
 * there are and whether they are as new as the books: a copy never answers for books that changed after it was made.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table books_change (
      books smallint primary key,
      times integer not null,
      rewrites integer not null
    );
    insert into books_change select distinct entity, 1, 0 from balance_period;

    create table column_part (
      id integer generated always as identity primary key,
      books smallint not null,
      after_load integer not null,
      to_load integer not null,
      times integer not null,
      rewrites integer not null,
      lines integer not null,
      bytes bigint not null,
      file text not null,
      made_at timestamptz not null default now()
    );
    create index column_part_books on column_part (books);
  `);
}

export async function down(): Promise<void> {
  throw new Error('a migration is not undone; restore a backup instead');
}
