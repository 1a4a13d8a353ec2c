import type { Knex } from 'knex';

/** What a document is made of, line by line, as it was written: what was ordered, came, or was billed. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table document_line (
      id integer generated always as identity primary key,
      load integer not null references load,
      replaced_by integer not null default 2147483647,
      entity smallint not null references entity,
      document text not null,
      line_no integer not null,
      item text not null,
      description text not null,
      quantity numeric,
      unit text not null,
      unit_price numeric,
      amount bigint not null,
      tax_code text not null,
      tax_amount bigint,
      account text not null
    );
    create index document_line_document on document_line (entity, document, line_no);
  `);
}

export async function down(): Promise<void> {
  throw new Error('a migration is not undone; restore a backup instead');
}
