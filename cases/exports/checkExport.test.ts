import { afterAll, beforeAll, expect, test } from 'vitest';
import { type Fresh, freshInstallation, loadText } from '@/ops/fresh';
import { addEntity } from '../charts/entities';
import { checkExport } from './checkExport';

let fresh: Fresh;
beforeAll(async () => {
  fresh = await freshInstallation();
  await addEntity(fresh.ctx, fresh.owner, {
    ...{ code: 'ONE', name: 'One Ltd', currency: 'EUR', yearEnd: 'derived', retainedEarnings: '3000' },
    calendar: { kind: 'monthly', start: '01', adjustmentPeriods: 0 },
  });
  await loadText(fresh, 'code,name,type\n1000,Bank,asset\n3000,Retained,equity\n6100,Rent,expense', {
    ...{ kind: 'accounts', entity: 'ONE' },
  });
  const heads =
    'entry,line,date,account,debit,credit,description,entry_description,journal,document,document_date,posted_by,entered_at';
  await loadText(
    fresh,
    [
      heads,
      'J-1,1,2026-01-10,6100,100.00,,Rent,Rent of January,PI,R-1,2026-01-09,lund,2026-01-10',
      'J-1,2,2026-01-10,1000,,100.00,Rent,Rent of January,PI,R-1,2026-01-09,lund,2026-01-10',
      'J-2,1,2026-02-10,6100,50.00,,Rent,Rent of February,PI,,,lund,2026-02-10',
      'J-2,2,2026-02-10,1000,,50.00,Rent,Rent of February,PI,,,lund,2026-02-10',
    ].join('\n'),
    { kind: 'lines', entity: 'ONE' },
  );
}, 60_000);
afterAll(() => fresh?.close());

const ask = (more: object) => checkExport(fresh.ctx, fresh.owner, { entity: ['ONE'], dims: {}, ...more } as never);

test('what lines lack of a structure is told field by field, with how many and the first', async () => {
  expect(await ask({ format: 'saft' })).toMatchObject({
    ok: true,
    lines: 4,
    debit: '150.00',
    credit: '150.00',
    missing: [],
  });
  expect(await ask({ format: 'fec' })).toMatchObject({
    ok: false,
    missing: [
      { field: 'PieceRef', of: 'document', lines: 2, first: 'J-2/1' },
      { field: 'PieceDate', of: 'document_date', lines: 2, first: 'J-2/1' },
    ],
  });
  expect(await ask({ format: 'fec', from: '2026.01', to: '2026.01' })).toMatchObject({ ok: true, lines: 2 });
});

test('a part of the books holds parts of entries, which is told', async () => {
  expect(await ask({ format: 'saft', accounts: '6100' })).toMatchObject({
    ...{ ok: false, lines: 2, unbalancedCount: 2, unbalanced: ['ONE J-1', 'ONE J-2'] },
  });
});
