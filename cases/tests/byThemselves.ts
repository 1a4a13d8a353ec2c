import type { Knex } from 'knex';
import type { TestsWhen } from '@/contracts/work';
import type { Db } from '@/store/db';
import { openJobOf } from '@/store/jobs';
import type { LoadRow } from '@/store/loads';
import { readSetting } from '@/store/settings';
import { newestByItself } from '@/store/testRuns';
import type { Context } from '../asking/context';
import { addJob } from '../jobs/jobs';

/** The tests that run by themselves over one figure, as whoever set them sees it, and when. */
export interface ByThemselves {
  tests: string[];
  scope: string;
  when: TestsWhen;
  entities: string[];
  by: string;
  person: number;
}

/** The name of the setting. */
export const BY_THEMSELVES = 'tests by themselves';

/** What runs by itself: what somebody set; “first look” where nobody said anything; null: nothing. */
export async function byThemselves(db: Db): Promise<ByThemselves | 'first look' | null> {
  const held = await readSetting<{ set: ByThemselves | null }>(db, BY_THEMSELVES);
  return held === null ? 'first look' : held.set;
}

/** A first look at what loads brought: all tests over their companies. */
export const FIRST_LOOK = 'first look';

/** After a load of lines: has what runs by itself run. */
export async function askTests(trx: Knex.Transaction, load: LoadRow): Promise<void> {
  const set = await byThemselves(trx);
  if (set === null) return;
  if (set === 'first look') {
    // Nobody to look for; or one that waits looks at this load too.
    if (load.person === null || (await openJobOf(trx, 'tests', FIRST_LOOK))?.begun_at === null) return;
    await addJob(trx, {
      ...{ kind: 'tests', subject: FIRST_LOOK, label: `First look after load ${load.id}` },
      ...{ person: load.person, person_name: load.person_name, entities: null },
      input: { firstLook: load.id },
    });
  } else if (set.when === 'load') await askThem(trx, set, `Tests after load ${load.id}`);
}

const askThem = (trx: Db, set: ByThemselves, label: string): Promise<number> =>
  addJob(trx, {
    ...{ kind: 'tests', subject: 'tests by themselves', label },
    ...{ person: set.person, person_name: set.by, entities: set.entities },
    input: { scope: set.scope, tests: set.tests },
  });

const TITLES: Record<Exclude<TestsWhen, 'load'>, string> = {
  day: 'Tests of the day',
  week: 'Tests of the week',
  month: 'Tests of the month',
};

/** Has those that run each day, week or month run, once in it: days begin at midnight, weeks on Mondays, in UTC. */
export async function askScheduledTests(ctx: Context, now = new Date()): Promise<void> {
  const set = await byThemselves(ctx.work);
  if (set === null || set === 'first look' || set.when === 'load') return;
  const { when } = set;
  await ctx.work.transaction(async (trx) => {
    if (await openJobOf(trx, 'tests', 'tests by themselves')) return;
    const newest = await newestByItself(trx);
    if (newest !== null && newest >= beginningOf(when, now)) return;
    await askThem(trx, set, TITLES[when]);
  });
}

export function beginningOf(when: Exclude<TestsWhen, 'load'>, now: Date): Date {
  const [year, month, day] = [now.getUTCFullYear(), now.getUTCMonth(), now.getUTCDate()];
  if (when === 'month') return new Date(Date.UTC(year, month, 1));
  // Monday is the first day of a week (ISO 8601).
  return new Date(Date.UTC(year, month, when === 'day' ? day : day - ((now.getUTCDay() + 6) % 7)));
}
