import type { Knex } from 'knex';

/**
 * People known by the organisation's own sign-in; who may do what with a thread or a kept sentence; words of threads and
 * findings with figures quoted in them; what attached files say, found by who attached them; letters that bear how far the
 * record went.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table identity (
      issuer text not null,
      subject text not null,
      person integer not null references person on delete cascade,
      bound_at timestamptz not null default now(),
      primary key (issuer, subject),
      unique (issuer, person)
    );

    create table sharing (
      kind text not null check (kind in ('thread', 'scope')),
      id integer not null,
      -- Nought is everybody else.
      person integer not null,
      may text not null check (may in ('nothing', 'open', 'comment', 'continue', 'change', 'share')),
      primary key (kind, id, person)
    );
    insert into sharing (kind, id, person, may) select 'scope', id, 0, case when shared then 'open' else 'nothing' end from kept_scope;
    alter table kept_scope drop column shared;

    alter table thread add column written jsonb not null default '{}';
    alter table finding add column written jsonb not null default '{}';

    alter table file_text add column contents jsonb;
  `);
}

export async function down(): Promise<void> {
  throw new Error('this migration is not undone; restore a backup instead');
}
