import type { Knex } from 'knex';
import type { Db } from '@/store/db';
import { readSetting } from '@/store/settings';
import { addJob } from '../jobs/jobs';

/** The tests that run by themselves after each load, over one figure, as whoever set them sees it. */
export interface ByThemselves {
  tests: string[];
  scope: string;
  entities: string[];
  by: string;
  person: number;
}

/** The name of the setting. */
export const BY_THEMSELVES = 'tests by themselves';

export const byThemselves = (db: Db): Promise<ByThemselves | null> =>
  readSetting<{ set: ByThemselves | null }>(db, BY_THEMSELVES).then((held) => held?.set ?? null);

/** After a load of lines: has what runs by itself run. */
export async function askTests(trx: Knex.Transaction, load: number): Promise<void> {
  const set = await byThemselves(trx);
  if (!set) return;
  await addJob(trx, {
    kind: 'tests',
    subject: 'tests after a load',
    label: `Tests after load ${load}`,
    ...{ person: set.person, person_name: set.by, entities: set.entities },
    input: { scope: set.scope, tests: set.tests },
  });
}
