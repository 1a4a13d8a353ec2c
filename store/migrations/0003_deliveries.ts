import type { Knex } from 'knex';

const SLOTS = Array.from({ length: 8 }, (_, i) => `d${i + 1} integer not null default 0`).join(', ');
const LAYER = 'load integer not null references load, replaced_by integer not null default 2147483647';

/** What comes beside lines: budgets, commitments, documents, rates, holdings; mappings kept, sources connected. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    alter table load
      add column mapping jsonb, add column stated jsonb, add column rows_read integer not null default 0,
      add column problems_so_far integer not null default 0, add column cancel_asked boolean not null default false,
      add column started_at timestamptz, add column first_day date, add column last_day date;
    create table load_check (
      load integer not null references load, at integer not null, what text not null, entity smallint not null,
      account text, period smallint, stated bigint not null, found bigint not null, primary key (load, at)
    );
    create table mapping (
      id integer generated always as identity primary key,
      name text not null unique, kind text not null, shape text not null, mapping jsonb not null,
      person_name text not null, used_at timestamptz not null default now()
    );
    create index mapping_shape on mapping (shape, kind);

    create table budget (
      id bigint generated always as identity primary key, ${LAYER},
      entity smallint not null, version text not null, account integer not null, period smallint not null,
      ${SLOTS}, amount bigint not null, description text not null default ''
    );
    create index budget_key on budget (entity, version, account, period);
    create table commitment (
      id bigint generated always as identity primary key, ${LAYER},
      entity smallint not null, number text not null, line_no integer not null, date date not null, due_date date,
      period smallint not null, account integer not null, counterparty integer not null default 0,
      ${SLOTS}, amount bigint not null, ordered bigint, description text not null default ''
    );
    create index commitment_key on commitment (entity, account, period);
    create table document (
      id bigint generated always as identity primary key, ${LAYER},
      entity smallint not null, number text not null, type text not null, date date not null, due_date date,
      counterparty integer not null default 0, currency text not null, amount bigint not null, account integer,
      description text not null default ''
    );
    create index document_number on document (entity, number);
    create table document_link (
      id bigint generated always as identity primary key, ${LAYER},
      entity smallint not null, source text not null, target text not null, applied bigint not null, date date not null
    );
    create index document_link_source on document_link (entity, source);
    create index document_link_target on document_link (entity, target);
    create table attachment (
      id bigint generated always as identity primary key, ${LAYER},
      entity smallint not null, document text not null, name text not null, digest text not null, bytes bigint not null
    );
    create index attachment_document on attachment (entity, document);
    create index attachment_name on attachment (entity, lower(name));
    create table rate (
      id bigint generated always as identity primary key, ${LAYER},
      date date not null, from_currency text not null, to_currency text not null, kind text not null, rate numeric not null
    );
    create index rate_key on rate (from_currency, to_currency, kind, date);
    create table holding (
      id integer generated always as identity primary key,
      entity smallint not null references entity, number text not null, name text not null,
      kind text not null check (kind in ('cash', 'bank')), takes text not null check (takes in ('receipts', 'payments', 'both')),
      currency text not null, account text not null, bank_account text, unique (entity, number)
    );
    create table connection (
      id integer generated always as identity primary key,
      name text not null unique, url text not null, entity smallint references entity, every_minutes integer,
      cursor text, spool text, spool_cursor text, spool_bytes bigint not null default 0,
      person integer, person_name text not null default '',
      state text not null default 'idle', message text, asked_at timestamptz, pulled_at timestamptz, last_load integer
    );
    create sequence catalogue_stamp;
  `);
}

export async function down(): Promise<void> {
  throw new Error('a migration is not undone; restore a backup instead');
}
