import type { Knex } from 'knex';

/** Panels that pages elsewhere show, each under an address of its own that ends and can be ended. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table embed (
      id integer generated always as identity primary key,
      person integer not null references person,
      report integer not null references report,
      kind text not null check (kind in ('figure', 'table', 'picture')),
      -- What takes the place of the report's own window, company or member.
      scope jsonb not null default '{}',
      expires_at timestamptz not null,
      ended_at timestamptz,
      looks integer not null default 0,
      looked_at timestamptz,
      at timestamptz not null default now()
    );
  `);
}

export async function down(): Promise<void> {
  throw new Error('this migration is not undone; restore a backup instead');
}
