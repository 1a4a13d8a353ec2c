import type { Knex } from 'knex';

/**
 * What the books of a company look like on the cash basis is its books with further entries: they take out what a document
 * is not settled of yet, and bring it in on the days of its settlement. They are lines like any other, under a number of
 * their own, so that every question is asked of both together.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table cash_books (
      entity smallint primary key references entity,
      books smallint not null unique,
      since integer not null,
      made_at timestamptz not null default now()
    );
    create table cash_entry (
      entry integer primary key,
      entity smallint not null,
      document text not null,
      load integer not null,
      replaced_by integer not null default 2147483647
    );
    create index cash_entry_document on cash_entry (entity, document);
    create table cash_gap (
      id integer generated always as identity primary key,
      load integer not null,
      replaced_by integer not null default 2147483647,
      entity smallint not null,
      document text not null,
      reason text not null
    );
    create index cash_gap_document on cash_gap (entity, document);

    -- A sequence is moved on before what it tells of can be seen, and by its first number not at all.
    drop sequence catalogue_stamp;
    create table catalogue_change (times bigint not null);
    insert into catalogue_change values (0);
  `);
}

export async function down(): Promise<void> {
  throw new Error('a migration is not undone; restore a backup instead');
}
