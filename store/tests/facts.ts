import { LIMITS, MORE, moreBeneath, NEAR } from '@/core/tests/limits';
import type { Facts } from '@/core/tests/test';
import { enteredDay, hourSql } from './times';
import type { Asks } from './words';

/** What a ledger itself says of what is usual in it (core/tests, Facts). */

interface OfEntity {
  entity: string;
  typical: number;
  large: number;
  turnover: number;
  material: null;
  round: number;
  limit: number;
}

/** Powers of ten in minor units that amounts may be multiples of, and how many lines are at the most. */
const POWERS = [4, 5, 6, 7, 8, 9, 10, 11].map((power) => 10 ** power);
const HARDLY_ANY = 0.01;

export async function factsOf(asks: Asks): Promise<Facts> {
  const lines = await asks.rows<{ entity: string; typical: number } & Record<string, number>>(
    `select entity, coalesce(median(abs(amount)), 1)::bigint as typical,
       ${POWERS.map((of, i) => `avg((amount % ${of} = 0)::integer)::double as r${i}`).join(', ')}
     from p where within and amount <> 0 group by entity`,
  );
  const entries = await asks.rows<{ entity: string; large: number }>(
    `select entity, quantile_cont(total, 0.999)::bigint as large from e where within group by entity`,
  );
  const turnovers = await asks.rows<{ entity: string; turnover: number }>(
    `select m.entity, greatest(abs(coalesce(sum(m.amount) filter (m.amount < 0), 0)), coalesce(sum(m.amount) filter (m.amount > 0), 0))::bigint as turnover
     from m join a on a.account = m.account and a.temporary join per on per.entity = m.entity and per.ordinal = m.period
     join (select entity, max(seq) as last from per where looked group by entity) w on w.entity = m.entity
     where per.looked and per.seq > w.last - 12 group by m.entity`,
  );
  const limits = await limitsOf(asks);
  const of = new Map(
    asks.entities.map((entity): [string, OfEntity] => {
      const own = lines.find((l) => l.entity === entity);
      const at = POWERS.findIndex((_, i) => own !== undefined && (own[`r${i}`] as number) <= HARDLY_ANY);
      return [
        entity,
        {
          entity,
          typical: Math.max(1, own?.typical ?? 1),
          large: entries.find((e) => e.entity === entity)?.large ?? 1,
          turnover: turnovers.find((t) => t.entity === entity)?.turnover ?? 0,
          material: null,
          round: POWERS[at] ?? (POWERS.at(-1) as number),
          limit: limits.get(entity) ?? 0,
        },
      ];
    }),
  );
  const [entered] = await asks.rows<{ days: number | null }>(
    `select quantile_disc(date_diff('day', day, ${enteredDay}), 0.95)::integer as days from e where ${enteredDay} >= day`,
  );
  const [hours] = await asks.rows<{ first: number | null; last: number | null; different: number }>(
    `select quantile_disc(${hourSql}, 0.025)::integer as first, quantile_disc(${hourSql}, 0.975)::integer as last, count(distinct ${hourSql}) as different
     from e where ${hourSql} is not null`,
  );
  return {
    of: (entity) =>
      of.get(entity) ?? { typical: 1, large: 1, turnover: 0, material: null, round: POWERS[0] as number, limit: 0 },
    entered: entered?.days ?? 0,
    // Where every entry has the same hour, none is kept.
    hours:
      hours && hours.different > 1 && hours.first !== null && hours.last !== null
        ? { from: hours.first, to: hours.last + 1 }
        : null,
  };
}

/** The limit of each company under which most more entries lie than over it. */
async function limitsOf(asks: Asks): Promise<Map<string, number>> {
  const rows = await asks.rows<{ entity: string; bound: number; beneath: number; above: number }>(
    `select e.entity, c.bound, count(*) filter (e.total < c.bound) as beneath, count(*) filter (e.total >= c.bound) as above
     from e join (values ${LIMITS.map((at) => `(${at}::bigint)`).join(', ')}) c(bound)
       on e.total >= c.bound * ${1 - NEAR} and e.total < c.bound * ${1 + NEAR}
     where e.within group by all`,
  );
  const best = new Map<string, { at: number; more: number }>();
  for (const { entity, bound: at, beneath, above } of rows) {
    const more = moreBeneath(beneath, above);
    if (more >= MORE && more > (best.get(entity)?.more ?? 0)) best.set(entity, { at, more });
  }
  return new Map([...best].map(([entity, { at }]) => [entity, at]));
}

/** How many there are of what tests look at, in the window. */
export async function unitsOf(
  asks: Asks,
): Promise<Record<'entries' | 'accounts' | 'account-months' | 'parties' | 'people' | 'numbers' | 'lines', number>> {
  const [lines] = await asks.rows<{ lines: number; accounts: number; parties: number; people: number; months: number }>(
    `select count(*) as lines, count(distinct account) as accounts, count(distinct party) as parties, count(distinct person) as people,
       count(distinct account::bigint * 100000 + period) as months from p where within`,
  );
  const [entries] = await asks.rows<{ n: number }>('select count(*) as n from e where within');
  const n = entries?.n ?? 0;
  return {
    entries: n,
    accounts: lines?.accounts ?? 0,
    'account-months': lines?.months ?? 0,
    parties: lines?.parties ?? 0,
    people: lines?.people ?? 0,
    numbers: n,
    lines: lines?.lines ?? 0,
  };
}

/** What is looked at, for whoever asks whether it is all: Σ debit and Σ credit by company. */
export interface Counted {
  entity: string;
  lines: number;
  entries: number;
  debit: number;
  credit: number;
}

export const countedIn = (asks: Asks): Promise<Counted[]> =>
  asks.rows(
    `select entity, count(*) as lines, count(distinct entry) as entries, coalesce(sum(case when side = 1 then amount else 0 end), 0)::bigint as debit,
       coalesce(sum(case when side = 1 then 0 else -amount end), 0)::bigint as credit
     from p where within group by entity order by entity`,
  );
