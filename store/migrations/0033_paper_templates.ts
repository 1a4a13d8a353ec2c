import type { Knex } from 'knex';

/** Ways in which sheets leave, kept under names for everybody. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table paper_template (
      id integer generated always as identity primary key,
      person integer not null references person,
      name text not null,
      format text not null,
      how jsonb not null,
      at timestamptz not null default now()
    );
    create unique index paper_template_name on paper_template (lower(name));
  `);
}

export async function down(): Promise<void> {
  throw new Error('this migration is not undone; restore a backup instead');
}
