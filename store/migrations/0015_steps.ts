import type { Knex } from 'knex';

/** The steps of saved threads under the name that they have everywhere. */
export async function up(db: Knex): Promise<void> {
  await db.raw('alter table knot rename to step');
}

export async function down(db: Knex): Promise<void> {
  await db.raw('alter table step rename to knot');
}
