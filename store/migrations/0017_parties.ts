import type { Knex } from 'knex';

/**
 * What is known of a customer or supplier beside the name, what status accounts had before, and on which control account
 * documents are that do not say it themselves.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    alter table counterparty
      add column kind text check (kind in ('customer', 'supplier', 'both', 'employee', 'other')),
      add column groups text[] not null default '{}',
      add column address text not null default '',
      add column postal_code text not null default '',
      add column city text not null default '',
      add column country text not null default '',
      add column bank_account text not null default '',
      add column tax_number text not null default '',
      add column status text not null default 'active' check (status in ('active', 'inactive', 'suspended'));
    create table account_status (
      id integer generated always as identity primary key,
      load integer not null references load,
      entity smallint not null references entity,
      code text not null,
      was text not null,
      status text not null,
      at timestamptz not null default now()
    );
    create table document_control (
      entity smallint not null references entity,
      number text not null,
      account integer not null,
      primary key (entity, number)
    );
    create index account_status_code on account_status (entity, code);
  `);
}

export async function down(): Promise<void> {
  throw new Error('a migration is not undone; restore a backup instead');
}
