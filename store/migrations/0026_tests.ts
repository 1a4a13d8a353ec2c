import type { Knex } from 'knex';

/** Tests for what is unusual: their runs, what each found, how that was judged, and what is to be ignored from now on. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    alter table evidence drop constraint evidence_kind_check;
    alter table evidence add constraint evidence_kind_check
      check (kind in ('note', 'pin', 'tick', 'file', 'point', 'question', 'finding', 'sample', 'run'));
    create table run (
      id integer generated always as identity primary key,
      title text not null,
      tests text[] not null,
      -- Settings that differ from those that the ledger proposes, by test.
      params jsonb not null,
      -- The settings that it ran with, what was looked at, and what each test found; null until it is done.
      ran_with jsonb,
      population jsonb,
      results jsonb,
      job integer,
      by_itself boolean not null default false,
      finished_at timestamptz
    );
    create table hit (
      run integer not null references run on delete cascade,
      no integer not null,
      -- The same in every run for the same thing found by the same test.
      key text not null,
      test text not null,
      entity text not null,
      at jsonb not null,
      parts jsonb not null,
      amount bigint not null,
      degree double precision not null,
      rarity double precision not null,
      size double precision not null,
      score double precision not null,
      lines integer not null,
      sum bigint not null,
      -- Changes with any of the lines behind it.
      seal text not null,
      entry text,
      account text,
      party text,
      person text,
      day date,
      journal text,
      primary key (run, no),
      unique (run, key)
    );
    create table judgement (
      id integer generated always as identity primary key,
      test text not null,
      key text not null,
      entity text not null,
      seal text not null,
      judgement text not null check (judgement in ('explained', 'finding', 'asked', 'open')),
      note text not null,
      person integer not null references person,
      made_at timestamptz not null default now()
    );
    create index judgement_of on judgement (key, seal);
    create table ignored (
      id integer generated always as identity primary key,
      test text not null,
      entity text not null,
      -- What hits have in common that are alike: any of account, party, person, journal.
      alike jsonb not null,
      why text not null,
      person integer not null references person,
      made_at timestamptz not null default now(),
      revoked_by integer references person,
      revoked_at timestamptz
    );
  `);
}

export async function down(): Promise<void> {
  throw new Error('this migration is not undone; restore a backup instead');
}
