import { benfordHit } from '@/core/tests/amounts';
import { type Asks, amountOf, entryHits, plainNumber, type TestSql } from './words';

/** Amounts that are rounder, larger, or closer to a limit than usual (core/tests/amounts). */

export const round: TestSql<'round'> = ({ multiple }, asks) => {
  const of = `greatest(1, ${amountOf(multiple, asks, 'p.entity')})`;
  return entryHits(
    `2 * length(regexp_extract((o.amount // o.multiple)::varchar, '0*$'))`,
    { amount: 'o.amount' },
    `e join (
       select p.entity, p.entry, max(abs(p.amount)) as amount, any_value(${of}) as multiple from p
       where p.within and p.amount <> 0 and p.amount % ${of} = 0 group by all
     ) o on o.entity = e.entity and o.entry = e.entry where true`,
    'o.amount',
  );
};

export const underLimit: TestSql<'under-limit'> = ({ limit, percent }, asks) => {
  const of = amountOf(limit, asks, 'e.entity');
  const share = plainNumber(percent);
  return entryHits(
    `log2((${of} * ${share} / 100) / (${of} - e.total))`,
    { limit: of, below: `${of} - e.total`, party: 'e.party' },
    `e where ${of} > 0 and e.total < ${of} and e.total * 100 >= ${of} * (100 - ${share})`,
  );
};

export const large: TestSql<'large'> = ({ from }, asks) => {
  const least = `greatest(1, ${amountOf(from, asks, 'e.entity')})`;
  return entryHits(`log2(e.total / ${least})`, { least }, `e where e.total >= ${least}`);
};

/** How often amounts of each account begin with each digit. */
export const firstDigits: TestSql<'first-digits'> = ({ lines, deviation }, asks) => ({
  hits: digitsByAccount(asks).then((accounts) => accounts.flatMap((of) => benfordHit(of, lines, deviation))),
});

async function digitsByAccount(asks: Asks) {
  const rows = await asks.rows<{ entity: string; account: string; digit: number; lines: number; amount: number }>(
    `select entity, code as account, left(abs(amount)::varchar, 1)::integer as digit, count(*) as lines, sum(amount)::bigint as amount
     from p where within and amount <> 0 and not opening group by all order by entity, account`,
  );
  const accounts = new Map<string, { entity: string; account: string; counts: number[]; amount: number }>();
  for (const { entity, account, digit, lines, amount } of rows) {
    const key = `${entity}\n${account}`;
    const held = accounts.get(key) ?? { entity, account, counts: new Array<number>(9).fill(0), amount: 0 };
    held.counts[digit - 1] = lines;
    held.amount += amount;
    accounts.set(key, held);
  }
  return [...accounts.values()];
}
