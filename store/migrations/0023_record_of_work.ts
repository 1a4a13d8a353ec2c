import type { Knex } from 'knex';

/**
 * Evidence that a stranger can follow: ticks, files, review points, questions and findings beside notes and pins; notes
 * that are answered, changed and tell people; threads that are a record of work, signed by two.
 * What was concluded before signatures were kept is open again, and says so in its result.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    alter table evidence drop constraint evidence_kind_check;
    alter table evidence add constraint evidence_kind_check
      check (kind in ('note', 'pin', 'tick', 'file', 'point', 'question', 'finding'));
    alter table evidence add column thread integer references thread;
    create index evidence_thread on evidence (thread) where removed_at is null and thread is not null;
    create index evidence_lines on evidence (kind, id) where removed_at is null and line is not null;

    alter table note
      add column content jsonb,
      add column of_kind text,
      add column of_id integer,
      add column act text;
    create index note_of on note (of_kind, of_id) where of_kind is not null;

    create table tick (
      id integer generated always as identity primary key,
      mark text not null,
      value bigint,
      lines integer not null,
      digest text
    );
    create table evidence_moved (
      kind text not null,
      id integer not null,
      load integer not null,
      moved boolean not null,
      primary key (kind, id, load)
    );
    create table file (
      id integer generated always as identity primary key,
      digest text not null,
      name text not null,
      bytes bigint not null,
      media_type text not null
    );
    create index file_digest on file (digest);
    create table point (
      id integer generated always as identity primary key,
      body text not null,
      content jsonb,
      state text not null default 'open' check (state in ('open', 'answered', 'cleared')),
      changed_at timestamptz not null default now()
    );
    create table question (
      id integer generated always as identity primary key,
      body text not null,
      content jsonb,
      receiver integer not null references person,
      state text not null default 'open' check (state in ('open', 'answered')),
      changed_at timestamptz not null default now()
    );
    create index question_receiver on question (receiver, state);
    create table finding (
      id integer generated always as identity primary key,
      title text not null,
      type text not null check (type in ('error', 'control', 'question', 'improvement')),
      state text not null default 'open' check (state in ('open', 'agreed', 'settled', 'dropped')),
      subjects text[] not null,
      amount_subject text,
      amount_measure text,
      amount_load integer,
      currency text,
      value bigint,
      lines integer,
      cause text not null default '',
      effect text not null default '',
      recommendation text not null default '',
      owner integer references person,
      due date,
      changed_at timestamptz not null default now()
    );
    create table mention (
      kind text not null,
      id integer not null,
      person integer not null references person,
      made_at timestamptz not null default now(),
      seen_at timestamptz,
      primary key (kind, id, person)
    );
    create index mention_person on mention (person) where seen_at is null;

    alter table thread drop constraint thread_state_check;
    alter table thread
      add column reference text not null default '',
      add column purpose text not null default '',
      add column assertions text[] not null default '{}',
      add column result text not null default '',
      add column conclusion text not null default '',
      add column folder text not null default '',
      add column reviewer integer references person,
      add column rolled_from integer references thread;
    update thread set state = 'open', result = 'Concluded before signatures were kept.' where state = 'concluded';
    alter table thread add constraint thread_state_check check (state in ('open', 'prepared', 'signed', 'changed'));

    create table mail (
      id integer generated always as identity primary key,
      receiver text not null,
      subject text not null,
      body text not null,
      queued_at timestamptz not null default now(),
      sent_at timestamptz,
      tries integer not null default 0,
      problem text
    );
    create index mail_unsent on mail (id) where sent_at is null;

    create table second_factor (
      person integer primary key references person,
      secret text not null,
      confirmed_at timestamptz,
      last_step bigint not null default 0
    );

    create table sign_off (
      id integer generated always as identity primary key,
      thread integer not null references thread,
      person integer not null references person,
      signed_as text not null check (signed_as in ('preparer', 'reviewer')),
      digest text not null,
      content text not null,
      load integer not null,
      signed_at timestamptz not null default now(),
      ended_at timestamptz,
      ended_by integer references person,
      reason text
    );
    create unique index sign_off_once on sign_off (thread, signed_as) where ended_at is null;

    create table cross_reference (
      id integer generated always as identity primary key,
      a integer not null references pin,
      b integer not null references pin,
      person integer not null references person,
      made_at timestamptz not null default now(),
      removed_at timestamptz,
      check (a < b)
    );
    create index record_subject on record (subject);
    create index record_looks on record using gin ((detail->'things')) where act = 'looked at';
    create unique index cross_reference_once on cross_reference (a, b) where removed_at is null;
  `);
}

export async function down(): Promise<void> {
  throw new Error('this migration is not undone; restore a backup instead');
}
