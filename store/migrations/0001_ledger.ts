import type { Knex } from 'knex';

/** Everything that is loaded: entities, charts, dimensions, lines in layers, and the summaries kept with them. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table entity (
      id smallint generated always as identity primary key,
      code text not null unique,
      name text not null,
      names jsonb not null default '{}',
      currency text not null,
      calendar jsonb not null,
      year_end text not null check (year_end in ('derived', 'booked')),
      retained_earnings text not null
    );
    create table account (
      id integer generated always as identity primary key,
      entity smallint not null references entity,
      code text not null,
      name text not null,
      names jsonb not null default '{}',
      type text not null check (type in ('asset', 'liability', 'equity', 'income', 'expense')),
      parent text,
      posting boolean not null,
      status text not null default 'active',
      normal text not null,
      flow text,
      groups text[] not null default '{}',
      classification text,
      currency text,
      created_at text,
      created_by text,
      codes jsonb not null default '{}',
      dim_rules jsonb not null default '{}',
      temporary boolean generated always as (type in ('income', 'expense')) stored,
      unique (entity, code)
    );
    create table dimension (
      id smallint generated always as identity primary key,
      code text not null unique,
      name text not null,
      slot smallint not null unique check (slot between 1 and 8)
    );
    create table member (
      id integer generated always as identity primary key,
      dimension smallint not null references dimension,
      code text not null,
      name text not null,
      names jsonb not null default '{}',
      parent text,
      valid_from date,
      valid_to date,
      groups text[] not null default '{}',
      unique (dimension, code)
    );
    create table counterparty (id integer generated always as identity primary key, code text not null unique, name text not null);
    create table journal (id smallint generated always as identity primary key, code text not null unique, name text not null);
    create table ledger_user (id integer generated always as identity primary key, code text not null unique);

    create table load (
      id integer generated always as identity primary key,
      entity smallint references entity,
      kind text not null,
      format text not null,
      status text not null check (status in ('queued', 'reading', 'loaded', 'refused')),
      file_name text not null,
      file_digest text not null,
      file_bytes bigint not null,
      options jsonb not null default '{}',
      replaces_from smallint,
      replaces_to smallint,
      person integer,
      person_name text not null,
      created_at timestamptz not null default now(),
      finished_at timestamptz,
      progress real not null default 0,
      lines integer not null default 0,
      entries integer not null default 0,
      replaced integer not null default 0,
      problem_count integer not null default 0,
      message text
    );
    create table load_problem (
      load integer not null references load,
      at integer not null,
      row integer,
      column_name text,
      value text,
      message text not null,
      primary key (load, at)
    );
    create table load_total (
      load integer not null references load,
      entity smallint not null,
      period smallint not null,
      lines integer not null,
      debit bigint not null,
      credit bigint not null,
      primary key (load, entity, period)
    );

    create table entry (
      id integer generated always as identity primary key,
      entity smallint not null,
      load integer not null,
      replaced_by integer not null default 2147483647,
      number text collate "C" not null,
      journal smallint,
      description text not null,
      entered_at text,
      approved_by text,
      reversal_of text
    );
    create index entry_number on entry (entity, number, load);

    create table line (
      entity smallint not null,
      period smallint not null,
      day_period smallint not null,
      status smallint not null,
      kind smallint not null,
      side smallint not null,
      journal smallint not null default 0,
      account integer not null,
      entry integer not null,
      line_no integer not null,
      day date not null,
      posting_date date not null,
      counterparty integer not null default 0,
      posted_by integer not null default 0,
      d1 integer not null default 0, d2 integer not null default 0,
      d3 integer not null default 0, d4 integer not null default 0,
      d5 integer not null default 0, d6 integer not null default 0,
      d7 integer not null default 0, d8 integer not null default 0,
      load integer not null,
      replaced_by integer not null default 2147483647,
      amount bigint not null,
      currency_amount bigint,
      entry_number text collate "C" not null,
      document text,
      currency text,
      quantity numeric,
      unit text,
      description text not null,
      extra jsonb
    ) partition by list (entity);
    create index line_ledger on line (entity, account, day, entry_number, line_no);
    create index line_day on line (entity, day, entry_number, line_no);
    create index line_entry on line (entry, line_no) include (entity, account, amount);

    create table balance_period (
      entity smallint not null, account integer not null, period smallint not null, day_period smallint not null,
      status smallint not null, kind smallint not null, load integer not null,
      count integer not null, debit bigint not null, credit bigint not null
    );
    create index balance_period_key on balance_period (entity, account, period);
    create table balance_day (
      entity smallint not null, account integer not null, day date not null, period smallint not null,
      day_period smallint not null, status smallint not null, kind smallint not null, load integer not null,
      count integer not null, debit bigint not null, credit bigint not null
    );
    create index balance_day_key on balance_day (entity, account, day);
    create index balance_day_part on balance_day (entity, day_period);
    create table balance_member (
      entity smallint not null, slot smallint not null, member integer not null, account integer not null,
      period smallint not null, day_period smallint not null, status smallint not null, kind smallint not null,
      load integer not null, count integer not null, debit bigint not null, credit bigint not null
    );
    create index balance_member_key on balance_member (entity, slot, member, account, period);
  `);
}

export async function down(): Promise<void> {
  throw new Error('the first migration is not undone; restore a backup instead');
}
