import { afterAll, beforeAll, expect, test } from 'vitest';
import { linesShape, marksShape, overTimeShape, sheetShape, whatMovedShape } from '@/contracts/questions';
import { readQuery, scopeShape } from '@/contracts/scope';
import { demoInstallation, type Fresh } from '@/ops/fresh';
import { readMarkRules, readMarks, setMarkRules } from './marks';
import { readLines } from './readLines';
import { readOverTime } from './readOverTime';
import { readSheet } from './readSheet';
import { readTotals } from './readTotals';
import { readWhatMoved } from './readWhatMoved';

// The panels on a focused figure, over the demo world.

let fresh: Fresh;
beforeAll(async () => {
  fresh = await demoInstallation();
});
afterAll(() => fresh?.close());

const moved = (query: string) =>
  readWhatMoved(fresh.ctx, fresh.owner, readQuery(whatMovedShape, new URLSearchParams(query)));
const minor = (text: string): number => Math.round(Number(text) * 100);

test('every dimension tells the same change, and its members with the rest make it exactly', async () => {
  for (const query of [
    'accounts=63*&from=2027.04&to=2027.06',
    'accounts=4*&from=2027.01&to=2027.06&against=window-before',
    'accounts=15*&to=2027.06&measure=closing',
  ]) {
    const { dimensions, totals, tie } = await moved(`entity=KSF&${query}`);
    expect(tie?.ok).toBe(true);
    for (const d of dimensions)
      expect([query, d.by, d.movers.reduce((sum, m) => sum + minor(m.change), minor(d.rest))]).toEqual([
        query,
        d.by,
        minor(totals?.change ?? ''),
      ]);
  }
});

test('story 1: dry-docking rose by a project that was not there', async () => {
  const { dimensions } = await moved('entity=KSF&accounts=6320&from=2027.04&to=2027.06');
  const project = dimensions.find((d) => d.by === 'dim:project');
  expect(project?.movers.filter((m) => m.is === 'new').map((m) => m.member)).toContain('LINK-BRE');
});

test('a figure over time: its window’s periods make its movement, and a year before is the same period a year before', async () => {
  const query = 'entity=KSF&accounts=4*&from=2027.04&to=2027.06';
  const { points, tie, usual } = await readOverTime(
    fresh.ctx,
    fresh.owner,
    readQuery(overTimeShape, new URLSearchParams(query)),
  );
  const { total } = await readTotals(fresh.ctx, fresh.owner, readQuery(scopeShape, new URLSearchParams(query)));
  expect(tie?.ok).toBe(true);
  expect(points).toHaveLength(24);
  expect(points.filter((p) => p.inWindow).reduce((sum, p) => sum + minor(p.value), 0)).toBe(minor(total.movement));
  const at = (period: string) => points.find((p) => p.period === period);
  expect(at('2027.05')?.before).toBe(at('2026.05')?.value);
  expect(minor(usual?.low ?? '')).toBeLessThan(minor(usual?.high ?? ''));
});

const marks = async (query: string) =>
  (await readMarks(fresh.ctx, fresh.owner, readQuery(marksShape, new URLSearchParams(`entity=KSF&${query}`)))).rows;

test('stories 3 and 12 stand out by the rules as they come: a prepayment in credit, payroll that stepped up', async () => {
  const rows = await marks('from=2027.04&to=2027.06');
  expect(rows.find((r) => r.row === '1410')?.marks.map((m) => m.rule)).toContain('wrongSide');
  expect(rows.some((r) => r.row === '1111')).toBe(false); // depreciation is usually in credit
  const income = await marks('from=2027.04&to=2027.06&statement=income');
  const docking = income.find((r) => r.row.endsWith('/6320'));
  expect(docking?.marks[0]).toMatchObject({
    rule: 'change',
    says: [expect.stringMatching(/^6320 .* rose by $/), { amount: '208400.00' }, ' against a year before, 34 %'],
  });
  // A row says why it stands out, and also why an account in it does.
  expect(income.find((r) => docking?.row.startsWith(`${r.row}/`))?.marks.map((m) => m.says)).toContainEqual(
    docking?.marks[0]?.says,
  );
});

test('the rules are the workspace’s: an owner sets them, nobody else, and a rule that is off marks nothing', async () => {
  const { ctx, owner } = fresh;
  const rules = await readMarkRules(ctx);
  await expect(setMarkRules(ctx, { ...owner, role: 'preparer' }, rules)).rejects.toThrow('may not set what is marked');
  await setMarkRules(ctx, owner, {
    change: null,
    wrongSide: false,
    silent: { periods: 2 },
    material: '40000000.00',
    share: null,
    own: [],
  });
  expect(await marks('from=2027.06&to=2027.06&accounts=1*')).toEqual([
    {
      row: '1110',
      marks: [{ rule: 'material', says: [expect.stringMatching(/is above $/), { amount: '40000000.00' }] }],
    },
  ]);
  // However a figure is broken down, its rows are weighed.
  const split = new URLSearchParams('entity=KSF&from=2027.06&to=2027.06&accounts=1*&by=account');
  const { material, rows: parts } = await readSheet(ctx, owner, readQuery(sheetShape, split));
  expect([material, parts.flatMap((r) => (r.above ? [[r.member, r.above]] : []))]).toEqual([
    '40000000.00',
    [['1110', ['closing']]],
  ]);
  await setMarkRules(ctx, owner, rules);
});

test('lines above materiality and lines and accounts that meet a condition of one’s own are marked, wherever they stand', async () => {
  const { ctx, owner } = fresh;
  const rules = await readMarkRules(ctx);
  await setMarkRules(ctx, owner, {
    ...{ change: null, wrongSide: false, silent: null, share: null },
    material: '20000',
    own: [
      { on: 'lines', name: 'large and bought by one person', query: 'min=9000&postedBy=mhald&accounts=63*' },
      { on: 'lines', name: 'on a vessel in dock', query: 'dim.vessel=MAREN&text=dry' },
      { on: 'accounts', name: 'much money', accounts: '15*', measure: 'closing', least: '1000000', most: null },
      {
        on: 'accounts',
        name: 'owed too much',
        accounts: 'type liability',
        measure: 'closing',
        least: null,
        most: '-5000000',
      },
    ],
  });
  const page = await readLines(
    ctx,
    owner,
    readQuery(linesShape, new URLSearchParams('entity=KSF&accounts=6310&from=2027.04&to=2027.06&limit=200')),
  );
  for (const line of page.rows) {
    const size = Math.abs(Number(line.amount));
    const expected = [
      ...(size >= 20_000 ? [expect.stringMatching(/above materiality/)] : []),
      ...(size >= 9_000 && line.postedBy === 'mhald' ? ['large and bought by one person'] : []),
    ];
    expect([line.id, line.standsOut ?? []]).toEqual([line.id, expected]);
  }
  expect(page.rows.filter((l) => l.standsOut).length).toBeGreaterThan(3);
  expect(page.rows.filter((l) => !l.standsOut).length).toBeGreaterThan(3);
  const own = (await marks('from=2027.06&to=2027.06')).flatMap((r) =>
    r.marks.flatMap((m) => (m.rule === 'own' ? [[r.row, String(m.says[0])]] : [])),
  );
  expect(own.some(([row, says]) => row === '1520' && says?.includes('much money'))).toBe(true);
  expect(own.some(([row, says]) => row === '2410' && says?.includes('owed too much'))).toBe(true);
  // What cannot be understood is refused when it is set, with its place.
  const bad = { ...rules, own: [{ on: 'lines' as const, name: 'x', query: 'min=much' }] };
  await expect(setMarkRules(ctx, owner, bad)).rejects.toMatchObject({ errors: [{ path: 'own.0.query' }] });
  await setMarkRules(ctx, owner, rules);
});
