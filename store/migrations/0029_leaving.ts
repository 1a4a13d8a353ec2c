import type { Knex } from 'knex';

/** What leaves: files that were made at length, frozen copies, reports and packs that are kept, and when they are made. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table taken_out (
      id integer generated always as identity primary key,
      person integer not null references person,
      title text not null,
      path text not null,
      format text not null,
      how jsonb not null default '{}',
      job integer,
      -- The file, once it is there.
      file_name text,
      media_type text,
      digest text,
      bytes bigint,
      at timestamptz not null default now(),
      made_at timestamptz
    );
    create index taken_out_of on taken_out (person, id);

    -- A copy is never changed: there is no right to.
    create table frozen (
      id text primary key,
      person integer not null references person,
      person_name text not null,
      title text not null,
      path text not null,
      page text not null,
      sentence text not null,
      -- The question as its maker was allowed to ask it; who may ask the same may see the copy.
      address text not null,
      load integer not null,
      digest text not null,
      content jsonb not null,
      at timestamptz not null default now()
    );

    create table report (
      id integer generated always as identity primary key,
      person integer not null references person,
      name text not null,
      folder text not null default '',
      path text not null,
      page text not null,
      format text not null,
      how jsonb not null default '{}',
      shared boolean not null default false,
      version integer not null default 1,
      removed_at timestamptz,
      at timestamptz not null default now()
    );
    create unique index report_name on report (person, name) where removed_at is null;

    create table report_version (
      report integer not null references report,
      version integer not null,
      path text not null,
      page text not null,
      format text not null,
      how jsonb not null,
      person integer not null references person,
      person_name text not null,
      at timestamptz not null default now(),
      primary key (report, version)
    );

    create table pack (
      id integer generated always as identity primary key,
      person integer not null references person,
      name text not null,
      -- What stands on its front page, as the editor's tree.
      words jsonb,
      reports integer[] not null,
      -- A dimension of whose members each has a pack of its own; null: one pack.
      units text,
      -- What is put in place of each report's own window, companies or unit.
      scope jsonb not null default '{}',
      shared boolean not null default false,
      removed_at timestamptz,
      at timestamptz not null default now()
    );
    create unique index pack_name on pack (person, name) where removed_at is null;

    create table schedule (
      id integer generated always as identity primary key,
      person integer not null references person,
      name text not null,
      report integer references report,
      pack integer references pack,
      formats text[] not null,
      receivers integer[] not null,
      every text not null check (every in ('once', 'daily', 'weekly', 'monthly', 'load', 'condition')),
      -- The day of 'once'; the days of a week (1 is Monday) or of a month.
      day text,
      days integer[] not null default '{}',
      time text not null default '07:00',
      zone text not null default 'UTC',
      -- A figure, and what is to become true of it: scope, measure, above or below, amount.
      condition jsonb,
      -- Whether it was true when it was looked at last.
      held boolean,
      paused boolean not null default false,
      -- The newest load when it was looked at last.
      seen_load integer not null default 0,
      next_at timestamptz,
      removed_at timestamptz,
      at timestamptz not null default now(),
      check ((report is null) <> (pack is null))
    );
    create index schedule_due on schedule (next_at) where removed_at is null and not paused;

    create table schedule_run (
      id integer generated always as identity primary key,
      schedule integer not null references schedule,
      -- For which moment, load or change of a condition it is, so that none is made twice.
      for_what text not null,
      state text not null default 'waiting' check (state in ('waiting', 'under way', 'done', 'failed')),
      reason text not null default '',
      outputs jsonb not null default '[]',
      at timestamptz not null default now(),
      ended_at timestamptz,
      unique (schedule, for_what)
    );

    alter table mail add column files jsonb not null default '[]';
  `);
}

export async function down(): Promise<void> {
  throw new Error('this migration is not undone; restore a backup instead');
}
