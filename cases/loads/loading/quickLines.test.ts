import { afterAll, beforeAll, beforeEach, describe, expect, test, vi } from 'vitest';
import { formatAmount } from '@/core/money';
import { Random } from '@/demo/random';
import { type Fresh, freshInstallation, sendFile } from '@/ops/fresh';
import { rowsOf } from '@/store/db';
import { Stage } from '@/store/stage';
import { addEntity } from '../../charts/entities';

// The quick way takes a file all at once, or leaves it to the reader that looks at every row. Either way the lines are the
// same: each file is loaded into the books of one company the quick way and of another row by row.

/** Asked only of a file of which every row was plainly right, and false where the quick way takes it. */
const odd = vi.spyOn(Stage.prototype, 'hasOddEntries');
afterAll(() => odd.mockRestore());
beforeEach(() => void odd.mockClear());
const tookQuickWay = async (): Promise<boolean> => (await odd.mock.results[0]?.value) === false;

let fresh: Fresh;
beforeAll(async () => {
  fresh = await freshInstallation('2026-12-31');
  for (const code of ['QCK', 'ROW']) {
    await addEntity(fresh.ctx, fresh.owner, {
      ...{ code, name: code, currency: 'GBP', yearEnd: 'derived', retainedEarnings: '3000' },
      calendar: { kind: 'monthly', start: '01', adjustmentPeriods: 1 },
    } as never);
    await sendFile(fresh, 'c.csv', 'code,name,type\n1000,Bank,asset\n3000,Equity,equity\n4000,Sales,income\n', {
      ...{ kind: 'accounts', entity: code },
    } as never);
  }
  await sendFile(fresh, 'd.csv', 'dimension,code,name\nvessel,,Vessel\nvessel,MAREN,Maren\n', {
    kind: 'dimensions',
  } as never);
});
afterAll(() => fresh?.close());

let sent = 0;
/** Loads the same text both ways. @param rowByRow what makes the careful reader take it: accounts may be made */
async function both(text: (entity: string, number: number) => string, more: object = {}) {
  sent += 1;
  const quick = await sendFile(fresh, `q${sent}.csv`, text('QCK', sent), {
    ...{ kind: 'lines', entity: 'QCK' },
    ...more,
  } as never);
  const wasQuick = await tookQuickWay();
  odd.mockClear();
  const careful = await sendFile(fresh, `r${sent}.csv`, text('ROW', sent), {
    ...{ kind: 'lines', entity: 'ROW', unknownAccounts: 'create' },
    ...more,
  } as never);
  expect(await tookQuickWay()).toBe(false);
  return { quick, careful, wasQuick };
}

/** All that is kept of the lines of a company from a load on, by names instead of numbers. */
const kept = (entity: string, load: number) =>
  rowsOf(
    fresh.ctx.work,
    `select l.entry_number, l.line_no, l.day, l.posting_date, l.period, l.day_period, l.status, l.kind, l.side, l.amount, l.currency,
       l.currency_amount, l.document, l.quantity::text as quantity, l.unit, l.description, l.extra, a.code as account, d1,
       j.code as journal, c.code as party, c.name as party_name, u.code as posted_by, e.description as head, e.entered_at,
       e.approved_by, e.reversal_of, e.source
     from line l join entity n on n.id = l.entity and n.code = ? join account a on a.id = l.account join entry e on e.id = l.entry
     left join journal j on j.id = l.journal left join counterparty c on c.id = l.counterparty left join ledger_user u on u.id = l.posted_by
     where l.load = ? order by 1, 2`,
    [entity, load],
  );

const WORDS = [
  'plain',
  'say "hi"',
  '"',
  'a "b" c "d"',
  "O'Hara",
  "'tis",
  '=1+1',
  '-5',
  '@x',
  "'=x",
  'Brønnøy',
  'a\nb',
  'a;b|c',
  '  two  ',
];
const FIELDS = [
  'entry',
  'line',
  'date',
  'account',
  'debit',
  'credit',
  'description',
  'entry_description',
  'journal',
].concat(
  ...[
    'counterparty',
    'counterparty_name',
    'posted_by',
    'document',
    'unit',
    'quantity',
    'approved_by',
    'source',
    'dim:vessel',
  ],
  ...['tax_code', 'attachment', 'reconciled'],
);

/** A field as RFC 4180 has it, guarded where a spreadsheet would run it. */
const cell = (text: string, delimiter: string): string => {
  const safe = /^'*[=+\-@\t\r]/.test(text) ? `'${text}` : text;
  return /["\n\r]/.test(safe) || safe.includes(delimiter) ? `"${safe.replaceAll('"', '""')}"` : safe;
};

function ledger(random: Random, entries: number, number: number, delimiter: string): string {
  const rows = Array.from({ length: entries }, (_, i) => {
    const amount = formatAmount(random.whole(1, 9_999_999), 2);
    const day = `2026-${String(random.whole(1, 12)).padStart(2, '0')}-${String(random.whole(1, 28)).padStart(2, '0')}`;
    const texts = () => random.pick(WORDS);
    const head = texts();
    return ['4000', '1000'].map((account, at) =>
      [
        `${number}-${i}`,
        String(at + 1),
        day,
        account,
        at === 0 ? '' : amount,
        at === 0 ? amount : '',
        texts(),
        head,
        random.pick(['GL', 'A"P"', '=J']),
        random.pick(['C1', '@C2', 'C"3"', '']),
        '',
        random.pick(['ann', '+bob', '']),
        random.pick(['', texts()]),
        random.pick(['', 'l']),
        random.pick(['', '12.5', '-3']),
        random.pick(['', 'zoe "z"']),
        random.pick(['', '-src']),
        random.pick(['', 'MAREN']),
        random.pick(['', '-T1']),
        random.pick(['', 'scan "1".pdf']),
        random.pick(['', '@stmt']),
      ].map((text, i) => (i < 6 || i === 14 ? text : cell(text, delimiter))),
    );
  }).flat();
  return `${[FIELDS, ...rows].map((row) => row.join(delimiter)).join('\n')}\n`;
}

describe('what the quick way takes', () => {
  test.each([',', ';', '\t', '|'])(
    'texts with quotes, guards and line ends, divided by %j, as the other reader has them',
    async (delimiter) => {
      const { quick, careful, wasQuick } = await both((_, n) => ledger(new Random(40 + n), 150, n, delimiter));
      expect([quick.status, careful.status, wasQuick]).toEqual(['loaded', 'loaded', true]);
      const [a, b] = await Promise.all([kept('QCK', quick.id), kept('ROW', careful.id)]);
      expect(a).toHaveLength(300);
      expect(a).toEqual(b);
    },
  );

  test('another ledger’s columns, days first and a decimal comma, by a mapping', async () => {
    const random = new Random(8);
    const words = ['Gebühr "Hafen"', '=Summe', 'Öl; Fett', 'x'];
    const text = (_: string, n: number) => {
      const rows = Array.from({ length: 120 }, (__, i) => {
        const amount = `${random.whole(1, 99_999)},${String(random.whole(0, 99)).padStart(2, '0')}`;
        const day = `${String(random.whole(1, 28)).padStart(2, '0')}.${String(random.whole(1, 12)).padStart(2, '0')}.2026`;
        return [`${amount}`, `-${amount}`].map((value, at) =>
          [
            `M${n}-${i}`,
            String(at + 1),
            day,
            'ohne',
            '1000',
            value,
            cell(random.pick(words), ';'),
            random.pick(['', '2,5']),
          ].join(';'),
        );
      }).flat();
      return `${['Beleg;Zeile;Datum;Sonst;Konto;Betrag;Text;Menge', ...rows].join('\n')}\n`;
    };
    const mapping = JSON.stringify({
      columns: {
        ...{ entry: 'Beleg', line: 'Zeile', date: 'Datum', account: 'Konto', amount: 'Betrag', description: 'Text' },
        quantity: 'Menge',
      },
    });
    let held = '';
    const same = (entity: string, n: number) => {
      held ||= text(entity, n);
      return held;
    };
    const { quick, careful, wasQuick } = await both(same, { mapping });
    expect([quick.problems, quick.status, careful.status, wasQuick]).toEqual([[], 'loaded', 'loaded', true]);
    const [a, b] = await Promise.all([kept('QCK', quick.id), kept('ROW', careful.id)]);
    expect(a).toHaveLength(240);
    expect(a).toEqual(b);
    expect(new Set(a.map((l) => (l as { quantity: string | null }).quantity))).toEqual(new Set([null, '2.5']));
  });

  test('a mark that guards nothing is part of the text', async () => {
    const row = (n: number, line: number, amount: string) =>
      `${n},${line},2026-03-01,1000,${amount},'tis '=x,'nor,"'""q"""`;
    const { quick, wasQuick, careful } = await both(
      (_, n) =>
        `entry,line,date,account,amount,description,document,unit\n${row(n, 1, '1.00')}\n${row(n, 2, '-1.00')}\n`,
    );
    expect(wasQuick).toBe(true);
    const [line] = await kept('QCK', quick.id);
    expect(line).toMatchObject({ description: "'tis '=x", document: "'nor", unit: `'"q"` });
    expect(await kept('ROW', careful.id)).toEqual(await kept('QCK', quick.id));
  });
});

describe('what it leaves to the reader that can say what is wrong', () => {
  const HEAD = 'entry,line,date,account,amount,description';
  test.each([
    ['a quote in the middle of a field', (n: number) => `${n},1,2026-03-01,1000,1.00,ab"c`],
    ['a blank before a quote', (n: number) => `${n},1,2026-03-01,1000,1.00, "abc"`],
    ['letters after a closed quote', (n: number) => `${n},1,2026-03-01,1000,1.00,"abc"d`],
    ['a quote that is never closed', (n: number) => `${n},1,2026-03-01,1000,1.00,"abc`],
  ])('%s: refused with the row, whichever way', async (_, row) => {
    const { quick, careful, wasQuick } = await both((__, n) => `${HEAD}\n${n},2,2026-03-01,1000,-1.00,x\n${row(n)}\n`);
    expect([wasQuick, quick.status, careful.status]).toEqual([false, 'refused', 'refused']);
    // The row is named before anything that follows from it, such as an entry that lacks a line.
    expect(quick.problems[0]).toEqual(careful.problems[0]);
    expect(quick.problems.map((p) => p.message).join()).toMatch(/cannot be read as CSV/);
  });

  test.each([
    ['an account that is not there', '9999,1.00,x'],
    ['too many decimals', '1000,1.005,x'],
  ])('%s: refused, and nothing of the file is kept', async (_, rest) => {
    const name = `bad-${sent}`;
    const found = await sendFile(
      fresh,
      `${name}.csv`,
      `${HEAD}\n${name},1,2026-03-01,1000,-1.00,x\n${name},2,2026-03-01,${rest}\n`,
      {
        ...{ kind: 'lines', entity: 'QCK' },
      } as never,
    );
    expect(found.status).toBe('refused');
    expect(found.problems.map((p) => p.row)).toContain(3);
    expect(await kept('QCK', found.id)).toEqual([]);
  });
});
