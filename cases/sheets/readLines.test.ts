import { beforeAll, expect, test } from 'vitest';
import { linesShape } from '@/contracts/questions';
import { readQuery } from '@/contracts/scope';
import { SORTS } from '@/core/lineFields';
import { type Fresh, freshInstallation, loadText } from '@/ops/fresh';
import { addEntity } from '../charts/entities';
import { readLines } from './readLines';

let fresh: Fresh;
beforeAll(async () => {
  fresh = await freshInstallation();
  await addEntity(fresh.ctx, fresh.owner, {
    code: 'ONE',
    name: 'One',
    currency: 'GBP',
    calendar: { kind: 'monthly', start: '01', adjustmentPeriods: 1 },
    yearEnd: 'derived',
    retainedEarnings: '3120',
  });
  const chart = 'code,name,type\n1520,Bank,asset\n3120,Retained,equity\n6310,Repairs,expense';
  await loadText(fresh, chart, { kind: 'accounts', entity: 'ONE' });
  return () => fresh.close();
});

const load = (from: number, to: number): Promise<unknown> => {
  const lines = ['entry,line,date,account,debit,credit,description'];
  for (let n = from; n <= to; n++)
    lines.push(`J-${n},1,2026-01-${10 + n},6310,1.00,,Pump`, `J-${n},2,2026-01-${10 + n},1520,,1.00,Pump`);
  return loadText(fresh, lines.join('\n'), { kind: 'lines', entity: 'ONE' });
};

const page = (more = '') =>
  readLines(
    fresh.ctx,
    fresh.owner,
    readQuery(linesShape, new URLSearchParams(`entity=ONE&from=2026.01&to=2026.01&accounts=6310&limit=3${more}`)),
  );

/** What is asked of the database meanwhile and holds these words. */
async function asking<T>(words: RegExp, work: () => Promise<T>): Promise<{ answer: T; times: number }> {
  let times = 0;
  const count = ({ sql }: { sql: string }): void => void (words.test(sql) && times++);
  fresh.ctx.read.on('query', count);
  try {
    return { answer: await work(), times };
  } finally {
    fresh.ctx.read.off('query', count);
  }
}

test('a ledger is summed for its first page and not again for those after it, until the books change', async () => {
  await load(1, 8);
  const first = await asking(/balance_/, () => page());
  expect(first.times).toBe(1);
  expect(first.answer.closing).toBe('8.00');
  const second = await asking(/balance_/, () => page(`&after=${first.answer.next}`));
  expect(second.times).toBe(0);
  expect(second.answer).toMatchObject({ closing: '8.00', at: 3, totals: { count: 8 } });
  expect(second.answer.rows.map((r) => r.running)).toEqual(['4.00', '5.00', '6.00']);
  const last = await asking(/balance_/, () => page(`&after=${second.answer.next}`));
  expect(last.times).toBe(0);
  expect(last.answer.tie).toEqual({ ok: true, offBy: '0.00' });

  await load(9, 10);
  const longer = await asking(/balance_/, () => page('&at=6'));
  expect(longer.times).toBeGreaterThan(0);
  expect(longer.answer).toMatchObject({ closing: '10.00', totals: { count: 10 } });
});

test('a ledger comes in the order of any column, up and down; what has nothing there comes last', async () => {
  const lines = ['entry,line,date,account,debit,credit,description,quantity,tax_code,due_date,source'];
  for (const [n, more] of [
    '9,V5,2026-03-02,Yard',
    '10,,2026-02-27,',
    '-3,V20,,Office',
    ',V20,2026-03-01,Yard',
  ].entries())
    lines.push(
      `S-${n},1,2026-02-0${n + 1},6310,${n + 1}.00,,Rope,${more}`,
      `S-${n},2,2026-02-0${n + 1},1520,,${n + 1}.00,Rope,,,,`,
    );
  await loadText(fresh, lines.join('\n'), { kind: 'lines', entity: 'ONE' });
  const inOrder = async (sort: string) =>
    (
      await readLines(
        fresh.ctx,
        fresh.owner,
        readQuery(
          linesShape,
          new URLSearchParams({ entity: 'ONE', from: '2026.02', to: '2026.02', accounts: '6310', sort }),
        ),
      )
    ).rows.map((r) => r.entry);
  expect(await inOrder('quantity')).toEqual(['S-2', 'S-0', 'S-1', 'S-3']);
  expect(await inOrder('-quantity')).toEqual(['S-1', 'S-0', 'S-2', 'S-3']);
  expect(await inOrder('taxCode,-amount')).toEqual(['S-3', 'S-2', 'S-0', 'S-1']);
  expect(await inOrder('dueDate')).toEqual(['S-1', 'S-3', 'S-0', 'S-2']);
  expect(await inOrder('source,-date')).toEqual(['S-2', 'S-3', 'S-0', 'S-1']);
  for (const by of SORTS) expect([by, (await inOrder(`-${by}`)).sort()]).toEqual([by, ['S-0', 'S-1', 'S-2', 'S-3']]);
  await expect(inOrder('colour')).rejects.toThrow(/there is no order “colour”; it is one of date, amount/);
});

test('what the parts of all lines come to is worked out for the first page, and said on every one', async () => {
  const parts = '&opposite=1520&part=allotted';
  const first = await asking(/chosen as materialized/, () => page(parts));
  expect(first.times).toBe(1);
  expect(first.answer.rows.map((r) => r.part)).toEqual(['1.00', '1.00', '1.00']);
  const next = await asking(/chosen as materialized/, () => page(`${parts}&after=${first.answer.next}`));
  expect([next.times, next.answer.part]).toEqual([0, first.answer.part]);
});

test('a line that is dated outside of the period it was booked in says so; what adjusts a year does not', async () => {
  await loadText(
    fresh,
    [
      'entry,line,date,period,account,debit,credit,description',
      'M-1,1,2027-02-11,2026.02,6310,5.00,,Mistyped year',
      'M-1,2,2027-02-11,2026.02,1520,,5.00,Mistyped year',
      'M-2,1,2026-02-28,2026.02,6310,6.00,,As it should be',
      'M-2,2,2026-02-28,2026.02,1520,,6.00,As it should be',
      'M-3,1,2026-12-31,2026.13,6310,7.00,,Adjusted at the end',
      'M-3,2,2026-12-31,2026.13,1520,,7.00,Adjusted at the end',
    ].join('\n'),
    { kind: 'lines', entity: 'ONE' },
  );
  const lines = async (query: string) =>
    readLines(fresh.ctx, fresh.owner, readQuery(linesShape, new URLSearchParams(`entity=ONE&${query}&limit=50`)));
  const { rows, oneAccount } = await lines('from=2026.02&to=2026.13&accounts=6310');
  const mine = rows.filter((r) => r.entry.startsWith('M-'));
  expect(mine.map((r) => [r.entry, r.outsidePeriod ?? false])).toEqual([
    ['M-2', false],
    ['M-3', false],
    ['M-1', true],
  ]);
  // The account is said on each line unless all are of one.
  expect([oneAccount, (await lines('accounts=type expense, 1520')).oneAccount]).toEqual([true, false]);
});
