import type { Knex } from 'knex';

/** What a company's tax codes are called, and into which boxes of its return they go. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table tax_code (
      id integer generated always as identity primary key,
      load integer not null references load,
      replaced_by integer not null default 2147483647,
      entity smallint not null references entity,
      code text not null,
      name text not null,
      rate text not null default '',
      box text not null default '',
      net_box text not null default ''
    );
    create index tax_code_entity on tax_code (entity, code);
  `);
}

export async function down(): Promise<void> {
  throw new Error('a migration is not undone; restore a backup instead');
}
