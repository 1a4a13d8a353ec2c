import { afterAll, beforeAll, expect, test } from 'vitest';
import { sheetShape } from '@/contracts/questions';
import { readQuery } from '@/contracts/scope';
import { type Fresh, freshInstallation, loadText } from '@/ops/fresh';
import { addEntity } from '../charts/entities';
import { readSheet } from './readSheet';

// A dimension with more members than anybody reads at once, each broken down by account. (What lines say of themselves
// comes page by page in store/columns/columns.test.ts.)

const PROJECTS = 230;
let fresh: Fresh;
beforeAll(async () => {
  fresh = await freshInstallation();
  await addEntity(fresh.ctx, fresh.owner, {
    ...{ code: 'ONE', name: 'One', currency: 'GBP', yearEnd: 'derived', retainedEarnings: '3120' },
    calendar: { kind: 'monthly', start: '01', adjustmentPeriods: 1 },
  });
  const chart = 'code,name,type\n1520,Bank,asset\n3120,Retained,equity\n6310,Repairs,expense\n6320,Docking,expense';
  await loadText(fresh, chart, { kind: 'accounts', entity: 'ONE' });
  const names = Array.from({ length: PROJECTS }, (_, n) => `P${String(n).padStart(3, '0')}`);
  // One of them has another beneath it, on which alone it is booked.
  const dimension = ['dimension,code,name,parent', 'project,,Project,', 'project,P007-A,Part,P007'];
  for (const name of names) dimension.push(`project,${name},${name},`);
  await loadText(fresh, dimension.join('\n'), { kind: 'dimensions' });
  const lines = ['entry,line,date,account,debit,credit,description,dim:project'];
  for (const [n, name] of names.entries()) {
    const on = name === 'P007' ? 'P007-A' : name;
    lines.push(`J-${n},1,2026-01-10,6310,${n + 1}.00,,Pump,${on}`, `J-${n},2,2026-01-10,6320,2.00,,Dock,${on}`);
    lines.push(`J-${n},3,2026-01-10,1520,,${n + 3}.00,Paid,`);
  }
  lines.push('J-X,1,2026-01-11,6310,5.00,,Pump,', 'J-X,2,2026-01-11,1520,,5.00,Paid,');
  await loadText(fresh, lines.join('\n'), { kind: 'lines', entity: 'ONE' });
});
afterAll(() => fresh?.close());

const sheet = (more: string) =>
  readSheet(
    fresh.ctx,
    fresh.owner,
    readQuery(sheetShape, new URLSearchParams(`entity=ONE&from=2026.01&to=2026.01&accounts=63*&by=dim:project${more}`)),
  );
const minor = (text: string): number => Math.round(Number(text) * 100);

test('many members with others within them come page by page, and all pages together are the whole', async () => {
  const found: string[] = [];
  let movement = 0;
  for (let after: string | null = ''; after !== null; ) {
    const page = await sheet(`&by=account&first=60${after ? `&after=${after}` : ''}`);
    const tops = page.rows.filter((r) => r.depth === 0);
    expect(page.tie.ok).toBe(true);
    const shown = tops.reduce((sum, r) => sum + minor(r.movement), 0);
    expect(shown + minor(page.others?.movement ?? '')).toBe(minor(page.total.movement));
    movement += shown;
    found.push(...tops.map((r) => r.member));
    after = page.others?.next ?? null;
    if (after === null) expect(movement).toBe(minor(page.total.movement));
  }
  // All of them in their order, what is beneath one of them within it, and last what is on none.
  expect(found).toHaveLength(PROJECTS + 1);
  expect(found[7]).toBe('P007');
  expect(found.at(-1)).toBe('~none');
  expect([...found].sort()).toEqual([...new Set(found)].sort());
});

test('alone, or few, they are answered whole', async () => {
  expect((await sheet('')).rows).toHaveLength(PROJECTS + 1);
  const few = await sheet('&by=account&dim.project=P00*&dim.project=P001');
  expect(few.others).toBeUndefined();
});
