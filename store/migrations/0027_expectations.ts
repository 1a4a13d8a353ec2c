import type { Knex } from 'knex';

/** What figures are expected to be, and what explains that they are not; the entries behind a hit that several are behind. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    alter table hit add column entries text[] not null default '{}';
    alter table evidence drop constraint evidence_kind_check;
    alter table evidence add constraint evidence_kind_check
      check (kind in ('note', 'pin', 'tick', 'file', 'point', 'question', 'finding', 'sample', 'run', 'expectation'));
    create table expectation (
      id integer generated always as identity primary key,
      -- How what is expected is reckoned (contracts/work, ExpectationRule).
      rule jsonb not null,
      reason text not null,
      -- A difference of so much needs explaining, in minor units of the currency.
      least bigint not null,
      currency text not null,
      -- What explains the difference: in words, with a figure or an amount of its own.
      parts jsonb not null default '[]',
      conclusion text not null default '',
      changed_at timestamptz not null default now()
    );
  `);
}

export async function down(): Promise<void> {
  throw new Error('this migration is not undone; restore a backup instead');
}
