import type { Knex } from 'knex';

/** Audit samples: how each was drawn, so that it can be drawn again, and what was found of every item. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    alter table evidence drop constraint evidence_kind_check;
    alter table evidence add constraint evidence_kind_check
      check (kind in ('note', 'pin', 'tick', 'file', 'point', 'question', 'finding', 'sample'));
    create table sample (
      id integer generated always as identity primary key,
      title text not null,
      of text not null check (of in ('lines', 'entries', 'documents')),
      method text not null,
      seed text not null,
      params jsonb not null,
      population jsonb not null,
      currency text not null,
      interval bigint,
      attributes text[] not null default '{}',
      conclusion text not null default '',
      changed_at timestamptz not null default now()
    );
    create table sample_item (
      sample integer not null references sample,
      no integer not null,
      subject text not null,
      label text not null,
      day date not null,
      amount bigint not null,
      stratum integer,
      certain boolean not null,
      -- The number of the item in whose place it was taken, and why.
      replaces integer,
      why text,
      found bigint,
      -- What was looked for in it, and whether it was there.
      attributes jsonb not null default '{}',
      note text not null default '',
      tested_by integer references person,
      tested_at timestamptz,
      primary key (sample, no),
      unique (sample, subject)
    );
  `);
}

export async function down(): Promise<void> {
  throw new Error('this migration is not undone; restore a backup instead');
}
