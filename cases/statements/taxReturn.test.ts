import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { linesShape, statementShape, trialBalanceShape } from '@/contracts/questions';
import { readQuery } from '@/contracts/scope';
import { demoInstallation, type Fresh } from '@/ops/fresh';
import { loadFile } from '../loads/loading/runLoads';
import { readLines } from '../sheets/readLines';
import { readTrialBalance } from '../sheets/readTrialBalance';
import { listStatements } from './outlines';
import { readStatement } from './readStatement';

// The boxes of a tax return over the demo world, against the accounts that its tax was booked on.

let fresh: Fresh;
beforeAll(async () => {
  fresh = await demoInstallation();
});
afterAll(() => fresh?.close());

const scope = (query: string) => new URLSearchParams(query);
const taxReturn = (query: string) =>
  readStatement(fresh.ctx, fresh.owner, 'tax', readQuery(statementShape, scope(query)));
const boxes = ({ rows }: Awaited<ReturnType<typeof taxReturn>>) =>
  rows.filter((r) => r.depth === 0).map((r) => [r.label, r.values.window]);
const QUARTER = 'entity=KSF&from=2027.01&to=2027.03';

test('a box has the tax that the purchases bore, as the account of input tax has it, and traces to their lines', async () => {
  const answer = await taxReturn(QUARTER);
  expect(boxes(answer).map(([box]) => box)).toEqual([
    'Box 1, tax on sales',
    'Box 2, tax on purchases',
    'Box 4, sales without tax',
    'Box 5, purchases without tax',
  ]);
  const { rows } = await readTrialBalance(fresh.ctx, fresh.owner, readQuery(trialBalanceShape, scope(QUARTER)));
  expect(Object.fromEntries(boxes(answer))['Box 2, tax on purchases']).toBe(
    rows.find((r) => r.account === '1331')?.debit,
  );
  const net = answer.rows.find((r) => r.key === 'box:Box 5, purchases without tax/P20/net');
  const lines = await readLines(
    fresh.ctx,
    fresh.owner,
    readQuery(linesShape, scope(`${QUARTER}&${new URLSearchParams(net?.refine as Record<string, string>)}`)),
  );
  expect(lines.totals.movement).toBe(net?.values.window);
  expect(answer.guards.every((g) => g.ok)).toBe(true);
  await expect(taxReturn('entity=KSF&entity=NHS&in=GBP&from=2027.01&to=2027.03')).rejects.toThrow(
    /currency of the books/,
  );
  const two = await taxReturn('entity=KSF&entity=STL&from=2027.01&to=2027.03');
  expect(two.rows.filter((r) => r.key.startsWith('box:Box 2') && r.depth === 1).map((r) => r.refine)).toEqual([
    { taxCode: 'P20', entity: 'KSF' },
    { taxCode: 'P20', entity: 'STL' },
  ]);
  expect((await listStatements(fresh.ctx, fresh.owner, { entity: 'KSF' })).rows.map((r) => r.code)).toContain('tax');
});

test('a code of which nothing is known stands without a box; given a box, the tax of a credit note lies on its own side', async () => {
  const file = (name: string, rows: string[]): string => {
    const path = join(fresh.env.JUST_THREAD_HOME as string, name);
    writeFileSync(path, `${rows.join('\n')}\n`);
    return path;
  };
  const bill = (entry: string, net: number, tax: number) => [
    `STL,${entry},1,2026-12-01,4512,${net < 0 ? `${-net},` : `,${net}`},Shop,R12,${Math.abs(tax)}`,
    `STL,${entry},2,2026-12-01,1520,${net < 0 ? `,${-net}` : `${net},`},Shop,,`,
  ];
  const lines = file('sales.csv', [
    'entity,entry,line,date,account,debit,credit,description,tax_code,tax_amount',
    ...bill('X1', 1_000, 120),
    ...bill('X2', -50, -6),
  ]);
  const loaded = await loadFile(fresh.ctx, fresh.owner, lines, { kind: 'lines' });
  expect(loaded).toMatchObject({ status: 'loaded' });
  const december = 'entity=STL&from=2027.09&to=2027.09';
  const unknown = await taxReturn(december);
  expect(boxes(unknown)).toEqual([['Without a box', '950.00']]);
  expect(unknown.guards.find((g) => g.guard === 'boxes')).toMatchObject({ ok: false, says: 'no box is known for R12' });
  const twice = await loadFile(
    fresh.ctx,
    fresh.owner,
    file('twice.csv', ['entity,code,name,box', 'STL,R12,Reduced,1', 'STL,R12,Reduced,2']),
    {
      kind: 'tax-codes',
    },
  );
  expect(twice).toMatchObject({ status: 'refused' });
  const codes = await loadFile(
    fresh.ctx,
    fresh.owner,
    file('codes.csv', ['entity,code,name,box', 'STL,R12,Reduced,Box 1a']),
    { kind: 'tax-codes' },
  );
  expect(codes).toMatchObject({ status: 'loaded', lines: 1 });
  const known = await taxReturn(december);
  expect(boxes(known)).toEqual([['Box 1a', '114.00']]);
  // As of the load before, nothing was known of it.
  expect(boxes(await taxReturn(`${december}&load=${loaded.id}`))).toEqual([['Without a box', '950.00']]);
});
