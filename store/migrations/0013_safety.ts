import type { Knex } from 'knex';

/**
 * Former words kept, people who leave, tokens and sessions that can be told apart, work that waits for a worker, and
 * what the store is checked against.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table former_words (
      id integer generated always as identity primary key,
      subject text not null,
      words jsonb not null,
      person integer not null references person,
      at timestamptz not null default now()
    );
    create index former_words_subject on former_words (subject);

    alter table person
      add column suspended_at timestamptz, add column removed_at timestamptz,
      add column password_at timestamptz not null default now();
    alter table person drop constraint person_email_key;
    create unique index person_email on person (email) where removed_at is null;

    alter table session
      add column id integer generated always as identity unique,
      add column created_at timestamptz not null default now(),
      add column seen_at timestamptz not null default now(),
      add column address text not null default '', add column agent text not null default '';
    create index session_person on session (person);
    alter table token
      add column id integer generated always as identity unique,
      add column name text not null default 'token',
      add column expires_at timestamptz not null default now() + interval '90 days',
      add column used_at timestamptz;
    create table password_reset (
      hash text primary key,
      person integer not null references person on delete cascade,
      expires_at timestamptz not null
    );
    alter table sign_in_attempt
      add column id integer generated always as identity primary key,
      add column right_one boolean not null default false;
    create index sign_in_attempt_email on sign_in_attempt (email, at);

    create table job (
      id integer generated always as identity primary key,
      kind text not null,
      subject text not null,
      label text not null,
      input jsonb not null default '{}',
      state text not null default 'waiting' check (state in ('waiting', 'under way', 'done', 'refused', 'cancelled', 'put aside')),
      progress real not null default 0,
      message text,
      result jsonb,
      person integer references person,
      person_name text not null,
      entities text[],
      added_at timestamptz not null default now(),
      begun_at timestamptz,
      beat_at timestamptz,
      finished_at timestamptz,
      tries integer not null default 0,
      ended_badly integer not null default 0,
      cancel_asked boolean not null default false
    );
    create index job_subject on job (subject);
    create index job_open on job (id) where finished_at is null;
    create table worker (
      id text primary key,
      started_at timestamptz not null default now(),
      seen_at timestamptz not null default now()
    );

    create table kept_file (
      digest text primary key,
      bytes bigint not null,
      person integer references person,
      kept_at timestamptz not null default now()
    );

    create table load_digest (
      load integer not null references load,
      what text not null,
      rows bigint not null,
      digest text not null,
      primary key (load, what)
    );

    alter table connection add column private_allowed boolean not null default false;
    alter table load alter column id drop identity;

    create function open_books(entity smallint) returns void language plpgsql security definer set search_path = public as $$
      begin
        execute format('create table line_e%s partition of line for values in (%s) partition by range (period)', entity, entity);
      end $$;
    create function enqueue(job integer, lane text, queue text) returns void language plpgsql security definer set search_path = public as $$
      begin
        perform graphile_worker.add_job(lane, json_build_object('job', job), queue_name => queue, job_key => 'job ' || job);
      end $$;
    revoke all on function open_books(smallint), enqueue(integer, text, text) from public;
  `);
}

export async function down(): Promise<void> {
  throw new Error('a migration is not undone; restore a backup instead');
}
