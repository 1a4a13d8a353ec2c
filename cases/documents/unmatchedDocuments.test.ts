import { afterAll, beforeAll, expect, test } from 'vitest';
import { openDocumentsShape, unmatchedShape } from '@/contracts/questions';
import { readQuery } from '@/contracts/scope';
import { demoInstallation, type Fresh, freshInstallation, loadText } from '@/ops/fresh';
import { addEntity } from '../charts/entities';
import { openDocuments } from './openDocuments';
import { unmatchedDocuments } from './unmatchedDocuments';

// Documents and lines of two control accounts, of which the one or the other is missing, wrong, or moved by chance; and
// each held against the other once more, by nothing but a loop over both.

const KINDS = ['invoice', 'payment', 'credit note'] as const;
interface Paper {
  number: string;
  type: (typeof KINDS)[number];
  date: string;
  account: string;
  amount: number;
  settles: { number: string; amount: number }[];
}

/** Numbers that look like chance and are the same every time. */
function chance(seed: number): (below: number) => number {
  let state = seed;
  return (below) => {
    state = (state * 1_103_515_245 + 12_345) % 2_147_483_648;
    return Math.floor((state / 2_147_483_648) * below);
  };
}

const money = (pence: number): string => (pence / 100).toFixed(2);
const pence = (text: string): number => Math.round(Number(text) * 100);
const day = (n: number): string => `2026-0${1 + Math.floor(n / 28)}-${String(1 + (n % 28)).padStart(2, '0')}`;

const papers: Paper[] = [];
/** Lines of the control accounts, as the ledger signs them. */
const booked: { entry: string; date: string; account: string; amount: number; document: string }[] = [];
const pick = chance(20_261);
for (let i = 0; i < 80; i++) {
  const account = pick(3) === 0 ? '1310' : '2110';
  const type = KINDS[pick(3)] as Paper['type'];
  const amount = 100 + pick(90_000);
  const others = papers.filter((p) => p.type === 'invoice' && (p.account === account || pick(12) === 0));
  const other = others[pick(Math.max(1, others.length))];
  const settles = type === 'invoice' || !other ? [] : [{ number: other.number, amount: 1 + pick(amount) }];
  const paper = { number: `D-${i}`, type, date: day(i), account, amount, settles };
  const sign = (type === 'invoice' ? 1 : -1) * (account === '1310' ? 1 : -1);
  const how = pick(10);
  if (how > 0) papers.push(paper);
  if (how === 1) continue;
  // One in ten with another amount; some without the number, some under the number of the entry alone.
  const off = how === 2 ? 5 + pick(50) : 0;
  const byEntry = how === 3;
  booked.push({
    ...{ entry: byEntry ? paper.number : `E-${i}`, date: how === 4 ? day(i + 1) : paper.date, account },
    ...{ amount: sign * (amount + off), document: byEntry || how === 4 || how === 5 ? '' : paper.number },
  });
}

let fresh: Fresh;
beforeAll(async () => {
  fresh = await freshInstallation();
  await addEntity(fresh.ctx, fresh.owner, {
    ...{ code: 'ONE', name: 'One', currency: 'GBP', yearEnd: 'derived', retainedEarnings: '3120' },
    calendar: { kind: 'monthly', start: '01', adjustmentPeriods: 0 },
  });
  const chart =
    'code,name,type\n1310,Customers,asset\n2110,Suppliers,liability\n3120,Retained,equity\n6310,Costs,expense';
  await loadText(fresh, chart, { kind: 'accounts', entity: 'ONE' });
  const rows = papers.map((p) => {
    const [settled] = p.settles;
    const link = settled ? `${settled.number},${money(settled.amount)}` : ',';
    return `${p.number},${p.type},${p.date},${money(p.amount)},${p.account},${link}`;
  });
  await loadText(fresh, ['number,type,date,amount,account,source,applied', ...rows].join('\n'), {
    ...{ kind: 'documents', entity: 'ONE' },
  });
  const lines = booked.flatMap(({ entry, date, account, amount, document }) =>
    [[account, amount] as const, ['6310', -amount] as const].map(
      ([on, of], i) => `${entry},${i + 1},${date},${on},${money(of)},words,${document}`,
    ),
  );
  await loadText(fresh, ['entry,line,date,account,amount,description,document', ...lines].join('\n'), {
    ...{ kind: 'lines', entity: 'ONE' },
  });
});
afterAll(() => fresh?.close());

const asked = (query: string) => new URLSearchParams(`entity=ONE&${query}`);

test.each(['2026-01-20', '2026-02-15', '2026-04-30'])(
  'at %s what does not match is what a loop over both finds',
  async (to) => {
    const found = await unmatchedDocuments(fresh.ctx, fresh.owner, readQuery(unmatchedShape, asked(`to=${to}`)));
    const open = await openDocuments(fresh.ctx, fresh.owner, readQuery(openDocumentsShape, asked(`to=${to}&open=all`)));
    expect(found.accounts.map((a) => a.account)).toEqual(['1310', '2110']);
    let seen = 0;
    for (const of of found.accounts) {
      const credit = of.account === '2110' ? -1 : 1;
      const mine = new Map(
        papers.filter((p) => p.account === of.account && p.date <= to).map((p) => [p.number, p] as const),
      );
      const expected = new Map<string, number>();
      const put = (key: string, amount: number): void => void expected.set(key, (expected.get(key) ?? 0) + amount);
      for (const p of mine.values()) put(p.number, p.type === 'invoice' ? -p.amount : p.amount);
      for (const b of booked.filter((l) => l.account === of.account && l.date <= to))
        put(mine.has(b.entry) ? b.entry : b.document || `entry ${b.entry}`, credit * b.amount);
      // A document and lines of the same day and amount that do not know of each other are one thing.
      let alike = 0;
      for (const [key, amount] of [...expected]) {
        if (!key.startsWith('entry ')) continue;
        const line = booked.find((b) => `entry ${b.entry}` === key);
        const twins = [...mine.values()].filter((p) => p.date === line?.date && expected.get(p.number) === -amount);
        if (twins.length !== 1) continue;
        for (const gone of [key, (twins[0] as Paper).number]) expected.delete(gone);
        alike += 1;
      }
      // What was applied to or by a document of the other account, or of none that is there.
      let moved = 0;
      for (const p of papers.filter((each) => each.date <= to))
        for (const { number, amount } of p.settles) {
          const settled = papers.find((each) => each.number === number);
          if (settled && settled.account === of.account && settled.date <= to) moved += amount;
          if (p.account === of.account) moved -= amount;
        }
      const differing = [...expected].filter(([, amount]) => amount !== 0);
      const listed = of.rows.filter((r) => r.kind !== 'applied');
      expect(new Map(listed.map((r) => [r.number ?? `entry ${r.entry}`, pence(r.difference)]))).toEqual(
        new Map(differing),
      );
      expect(of.alike).toBe(alike);
      const sum = of.rows.reduce((all, r) => all + pence(r.difference), 0);
      expect(sum).toBe(differing.reduce((all, [, amount]) => all + amount, 0) + moved);
      expect(of.tie).toEqual({ ok: true, offBy: '0.00' });
      const beside = open.accounts.find((a) => a.account === of.account);
      expect([of.documents, of.ledger]).toEqual([beside?.open, beside?.ledger]);
      expect(sum).toBe(pence(of.ledger) - pence(of.documents));
      seen += differing.length + of.alike;
    }
    expect(seen).toBeGreaterThan(1);
  },
);

test('in the demo world kroner owed to the yard are revalued without a document, and all else matches', async () => {
  const demo = await demoInstallation();
  try {
    for (const entity of ['KSF', 'NHS']) {
      const query = new URLSearchParams({ entity, window: 'everything' });
      const { accounts } = await unmatchedDocuments(demo.ctx, demo.owner, readQuery(unmatchedShape, query));
      for (const { account, rows, tie } of accounts) {
        expect(tie.ok).toBe(true);
        if (account === '2122') expect(new Set(rows.map((r) => r.kind))).toEqual(new Set(['no-document']));
        else expect(rows).toEqual([]);
      }
    }
  } finally {
    await demo.close();
  }
});
