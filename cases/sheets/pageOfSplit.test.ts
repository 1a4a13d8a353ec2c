import { afterAll, beforeAll, expect, test } from 'vitest';
import { sheetShape } from '@/contracts/questions';
import { readQuery } from '@/contracts/scope';
import { type Fresh, freshInstallation, loadText } from '@/ops/fresh';
import { addEntity } from '../charts/entities';
import { readSheet } from './readSheet';

// Splits with more rows than anybody reads at once, each broken down further. (What lines say of themselves comes page by
// page in store/columns/columns.test.ts.)

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
  // Very many members beneath two.
  dimension.push('site,A,North,', 'site,B,South,');
  for (const [n, name] of [...names, 'P007-A'].entries())
    dimension.push(`site,S-${name},${name},${n % 3 === 0 ? 'A' : 'B'}`);
  await loadText(fresh, dimension.join('\n'), { kind: 'dimensions' });
  const lines = ['entry,line,date,account,debit,credit,description,dim:project'];
  for (const [n, name] of names.entries()) {
    const on = name === 'P007' ? 'P007-A' : name;
    lines.push(`J-${n},1,2026-01-10,6310,${n + 1}.00,,Pump,${on}`, `J-${n},2,2026-01-10,6320,2.00,,Dock,${on}`);
    lines.push(`J-${n},3,2026-01-10,1520,,${n + 3}.00,Paid,`);
  }
  lines.push('J-X,1,2026-01-11,6310,5.00,,Pump,', 'J-X,2,2026-01-11,1520,,5.00,Paid,');
  // A year later, in which nothing of the year before is an opening of costs.
  for (const [n, name] of names.entries())
    lines.push(`Y-${n},1,2027-01-${String((n % 28) + 1).padStart(2, '0')},6310,7.00,,Pump,${name}`);
  for (const [n] of names.entries())
    lines.push(`Y-${n},2,2027-01-${String((n % 28) + 1).padStart(2, '0')},1520,,7.00,Paid,`);
  // Days on each of which every second project is booked.
  for (let day = 1; day <= 28; day++)
    for (const name of names.filter((name, n) => n % 2 === day % 2 && name !== 'P007')) {
      const at = `D-${day}-${name},`;
      const date = `2026-02-${String(day).padStart(2, '0')}`;
      lines.push(`${at}1,${date},6310,${day}.50,,Pump,${name}`, `${at}2,${date},1520,,${day}.50,Paid,`);
    }
  const placed = lines.map((line, i) => {
    const project = line.slice(line.lastIndexOf(',') + 1);
    return `${line},${i === 0 ? 'dim:site' : project && `S-${project}`}`;
  });
  await loadText(fresh, placed.join('\n'), { kind: 'lines', entity: 'ONE' });
});
afterAll(() => fresh?.close());

const sheet = (more: string, split = 'by=dim:project', accounts = '63*') =>
  readSheet(
    fresh.ctx,
    fresh.owner,
    readQuery(sheetShape, new URLSearchParams(`entity=ONE&accounts=${accounts}&${split}${more}`)),
  );
const minor = (text: string): number => Math.round(Number(text) * 100);

/** Walks all pages, each held against the whole, and gives the rows of all together. */
async function allPages(split: string, accounts?: string, first = '') {
  const rows: Awaited<ReturnType<typeof sheet>>['rows'] = [];
  let whole = 0;
  let pages = 0;
  for (let after: string | null = ''; after !== null; pages++) {
    const page = await sheet(`${first}${after ? `&after=${encodeURIComponent(after)}` : ''}`, split, accounts);
    expect(page.tie).toEqual({ ok: true, offBy: '0.00' });
    const shown = page.rows.filter((r) => r.depth === 0).reduce((sum, r) => sum + minor(r.movement), 0);
    whole = minor(page.total.movement);
    expect(shown + minor(page.others?.movement ?? '0')).toBe(whole);
    rows.push(...page.rows);
    after = page.others?.next ?? null;
  }
  expect(rows.filter((r) => r.depth === 0).reduce((sum, r) => sum + minor(r.movement), 0)).toBe(whole);
  return { rows, pages };
}

const MONTH = 'from=2026.01&to=2026.01';

test('many members with others within them come page by page, and all pages together are the whole', async () => {
  const { rows, pages } = await allPages(
    'from=2026.01&to=2026.02&by=dim:project&by=account&by=day',
    undefined,
    '&first=60',
  );
  expect(pages).toBeGreaterThan(3);
  // All of them in their order, what is beneath one of them within it, and last what is on none.
  const found = rows.filter((r) => r.depth === 0).map((r) => r.member);
  expect(found).toHaveLength(PROJECTS + 1);
  expect(found[7]).toBe('P007');
  expect(found.at(-1)).toBe('~none');
  expect([...found].sort()).toEqual([...new Set(found)].sort());
});

test.each([
  ['days of dates', 'from=2026-01-05&to=2026-06-30&by=day&by=dim:project', undefined],
  ['days of periods', 'from=2026.01&to=2026.06&by=day&by=dim:project', undefined],
  ['days of a year after it', 'from=2027.01&to=2027.02&by=day&by=dim:project', undefined],
  ['accounts', 'from=2026.01&to=2026.06&by=account&by=dim:project&by=day', '1*,63*'],
  ['headings', 'from=2026.01&to=2026.06&by=account/1&by=dim:project&by=day', '1*,63*'],
])('%s with many others within them: the rows of all pages are those of one sheet', async (_, split, accounts) => {
  const { rows, pages } = await allPages(split, accounts, '&first=1');
  expect(pages).toBeGreaterThan(1);
  // One sheet has the same rows with the same amounts: of each outermost member, asked by itself.
  for (const row of rows.filter((r) => r.depth === 0)) {
    const own = await readSheet(
      fresh.ctx,
      fresh.owner,
      readQuery(sheetShape, new URLSearchParams(`${row.address}&by=type`)),
    );
    expect(own.total).toEqual(pick(row));
  }
});

const pick = ({ opening, debit, credit, movement, roll, closing, count }: Record<string, unknown>) => ({
  ...{ opening, debit, credit, movement, roll, closing, count },
});

test('a few members with very many beneath them come page by page too: sums are of what is booked on', async () => {
  const { rows, pages } = await allPages('from=2026.01&to=2026.02&by=dim:site&by=account&by=day');
  expect(rows.filter((r) => r.depth === 0).map((r) => r.member)).toEqual(['A', 'B', '~none']);
  expect(pages).toBe(3);
});

test('alone, or few, they are answered whole', async () => {
  expect((await sheet('', `${MONTH}&by=dim:project`)).rows).toHaveLength(PROJECTS + 1);
  const few = await sheet('&by=account&dim.project=P00*&dim.project=P001', `${MONTH}&by=dim:project`);
  expect(few.others).toBeUndefined();
});
