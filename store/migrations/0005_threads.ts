import type { Knex } from 'knex';

/** Saved threads: a tree of knots, each with the address of its screen and the figure as it was when it was taken. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table thread (
      id integer generated always as identity primary key,
      name text not null,
      state text not null default 'open' check (state in ('open', 'concluded')),
      person integer not null references person,
      created_at timestamptz not null default now(),
      changed_at timestamptz not null default now(),
      removed_at timestamptz
    );
    create table knot (
      id integer generated always as identity primary key,
      thread integer not null references thread,
      parent integer references knot,
      address text not null,
      label text not null,
      view text not null,
      split_by text,
      subject text not null,
      entities text[] not null,
      measure text,
      currency text,
      value bigint,
      lines integer,
      load integer not null,
      note text not null default '',
      person integer not null references person,
      created_at timestamptz not null default now(),
      removed_at timestamptz
    );
    create index knot_thread on knot (thread);
  `);
}

export async function down(): Promise<void> {
  throw new Error('this migration is not undone; restore a backup instead');
}
