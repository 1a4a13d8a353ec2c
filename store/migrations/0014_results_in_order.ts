import type { Knex } from 'knex';

/** What a job was told and found is kept as it was said, in its order, which a screen shows as it came. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    alter table job alter column input drop default;
    alter table job alter column input type json using input::json, alter column result type json using result::json;
    alter table job alter column input set default '{}';
  `);
}

export async function down(): Promise<void> {
  throw new Error('a migration is not undone; restore a backup instead');
}
