import { type CalendarSpec, calendar, dayOf, numberOf, yearOf, yearSpan } from '../calendar';
import { addDays } from '../dates';
import type { Ledger, LedgerEntity } from '../evaluate';
import type { Clause, Figure, MemberPick } from '../figure';
import { type Account, LINE_KINDS, type Line, type Tree } from '../ledger';
import { parseSelection } from '../selection';

/** What comes behind the day on which an entry was entered. */
const ENTERED_AT = ['', 'T09:15:00Z', ' 14:59', 'T22:00:00+02:00', 'T24:10', ' at noon'];

/** Random ledgers and figures for the property tests, made from a seed so that a failure can be made again. */
export interface Dice {
  whole(low: number, high: number): number;
  pick<T>(items: readonly T[]): T;
  chance(of: number): boolean;
}

export function dice(seed: number): Dice {
  let state = seed | 0 || 1;
  const next = (): number => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    return (state >>> 0) / 4_294_967_296;
  };
  const whole = (low: number, high: number): number => low + Math.floor(next() * (high - low + 1));
  return { whole, pick: (items) => items[whole(0, items.length - 1)] as never, chance: (of) => next() < of };
}

export const TREES: ReadonlyMap<string, Tree> = new Map([
  [
    'unit',
    treeOf([
      ['N', null],
      ['N1', 'N'],
      ['N11', 'N1'],
      ['N111', 'N11'],
      ['N2', 'N'],
      ['S', null],
      ['S1', 'S'],
      ['EMPTY', null],
    ]),
  ],
  [
    'fund',
    treeOf([
      ['F1', null],
      ['F2', null],
      ['F3', 'F2'],
    ]),
  ],
]);

function treeOf(rows: [string, string | null][]): Tree {
  return new Map(rows.map(([code, parent]) => [code, { code, name: `Name of ${code}`, parent }]));
}

const account = (code: string, type: Account['type'], parent: string | null, posting = true): Account => ({
  code,
  name: `Account ${code}`,
  type,
  parent,
  posting,
  groups: code.endsWith('0') ? ['Round'] : [],
});

export const CHART: Account[] = [
  account('1', 'asset', null, false),
  ...['1000', '1010', '1500'].map((c) => account(c, 'asset', '1')),
  account('2000', 'liability', null),
  account('3000', 'equity', null),
  account('3100', 'equity', null),
  account('4', 'income', null, false),
  ...['4000', '4100'].map((c) => account(c, 'income', '4')),
  account('5', 'expense', null, false),
  account('51', 'expense', '5', false),
  ...['5100', '5110'].map((c) => account(c, 'expense', '51')),
  account('5900', 'expense', '5'),
];
export const RETAINED = '3100';

export interface RandomEntity extends LedgerEntity {
  spec: CalendarSpec;
  yearEnd: 'derived' | 'booked';
}

/** A ledger of the entities, about three fiscal years long: openings, period 13, unposted, reversals, odd dates, closings. */
export function randomLedger(
  seed: number,
  entities: { code: string; spec: CalendarSpec; yearEnd: 'derived' | 'booked' }[],
): Ledger {
  const roll = dice(seed);
  const lines: Line[] = [];
  const known = new Map<string, RandomEntity>();
  for (const { code, spec, yearEnd } of entities) {
    const cal = calendar(spec);
    known.set(code, { code, calendar: cal, retainedEarnings: RETAINED, chart: CHART, spec, yearEnd });
    const entryLines = (
      number: string,
      postingDate: string,
      period: number,
      rest: Partial<Line>,
      parts: Partial<Line>[],
    ): void => {
      for (const [i, part] of parts.entries()) {
        lines.push({
          entity: code,
          entry: number,
          line: i + 1,
          account: '1000',
          postingDate,
          day: dayOf(cal, postingDate, period),
          period,
          status: 'posted',
          kind: 'normal',
          side: 'debit',
          amount: 0,
          description: '',
          entryDescription: '',
          journal: null,
          counterparty: null,
          postedBy: null,
          document: null,
          currency: null,
          documentType: null,
          taxCode: null,
          unit: null,
          dueDate: null,
          documentDate: null,
          approvedBy: null,
          enteredAt: null,
          dims: {},
          source: null,
          partnerEntity: null,
          reversalOf: null,
          attachment: null,
          reconciled: null,
          quantity: null,
          currencyAmount: null,
          taxAmount: null,
          ...rest,
          ...part,
        });
      }
    };
    const first = yearSpan(cal, 2025).from;
    const firstPeriod = cal.periodAt(first).ordinal;
    entryLines(`${code}-OB`, first, firstPeriod, { kind: 'opening' }, [
      { account: '1000', amount: 500_000 },
      { account: '3000', amount: -500_000, side: 'credit' },
    ]);
    for (let i = 0; i < 110; i++) {
      const date = addDays(first, roll.whole(0, 3 * 364));
      const natural = cal.periodAt(date);
      const adjustments = cal.periodsOf(natural.year).filter((p) => p.adjustment);
      const adjusting = adjustments.length > 0 && roll.chance(0.1);
      const elsewhere = !adjusting && roll.chance(0.08);
      const normal = cal.periodsOf(natural.year).filter((p) => !p.adjustment);
      const period = adjusting
        ? roll.pick(adjustments).ordinal
        : elsewhere
          ? roll.pick(normal).ordinal
          : natural.ordinal;
      const amount = roll.whole(1, 90_000) * (roll.chance(0.06) ? -1 : 1);
      const cut = roll.whole(0, Math.abs(amount)) * Math.sign(amount);
      const codes = CHART.filter((a) => a.posting).map((a) => a.code);
      const dims = (): Line['dims'] => ({
        ...(roll.chance(0.7) ? { unit: roll.pick(['N', 'N1', 'N11', 'N111', 'N2', 'S', 'S1']) } : {}),
        ...(roll.chance(0.5) ? { fund: roll.pick(['F1', 'F2', 'F3']) } : {}),
      });
      const foreign = roll.chance(0.2) ? roll.pick(['EUR', 'NOK', 'JPY', 'KWD']) : null;
      const measured = roll.chance(0.2);
      const numbers = (): Partial<Line> => ({
        ...(measured ? { quantity: roll.pick(['12', '3.5', '-2', '0', '0.007']) } : {}),
        ...(foreign ? { currencyAmount: roll.whole(-90_000, 90_000) } : {}),
        ...(roll.chance(0.2) ? { taxAmount: roll.pick(['4.50', '-20', '0.05']) } : {}),
        ...(roll.chance(0.3) ? { reconciled: roll.pick(['BS-1', 'BS-2']) } : {}),
        ...(roll.chance(0.2) ? { attachment: roll.pick(['scan.pdf', 'what?.pdf', 'a..b.png']) } : {}),
      });
      const parts: Partial<Line>[] = [
        { account: roll.pick(codes), amount, side: 'debit', dims: dims(), ...numbers() },
        { account: roll.pick(codes), amount: -cut, side: 'credit', dims: dims(), ...numbers() },
        { account: roll.pick(codes), amount: cut - amount, side: 'credit', dims: dims(), ...numbers() },
      ];
      entryLines(
        `${code}-${String(i).padStart(4, '0')}`,
        date,
        period,
        {
          status: roll.chance(0.1) ? 'unposted' : 'posted',
          kind: adjusting ? 'adjustment' : roll.chance(0.05) ? 'reversal' : 'normal',
          journal: roll.chance(0.9) ? roll.pick(['GL', 'AP', 'AR']) : null,
          counterparty: roll.chance(0.5) ? roll.pick(['C1', 'C2']) : null,
          postedBy: roll.pick(['ann', 'ben']),
          document: roll.chance(0.3) ? `D-${roll.whole(1, 9)}` : null,
          currency: foreign,
          source: roll.chance(0.6) ? roll.pick(['Yard', 'Head office']) : null,
          partnerEntity: roll.chance(0.1) ? code : null,
          reversalOf: roll.chance(0.1) ? `${code}-0001` : null,
          documentType: roll.chance(0.4) ? roll.pick(['invoice', 'credit note']) : null,
          unit: measured ? 'l' : null,
          dueDate: roll.chance(0.3) ? addDays(date, 30) : null,
          documentDate: roll.chance(0.3) ? date : null,
          approvedBy: roll.chance(0.4) ? roll.pick(['eva', 'finn']) : null,
          enteredAt: roll.chance(0.5) ? addDays(date, roll.whole(0, 3)) + roll.pick(ENTERED_AT) : null,
          taxCode: roll.chance(0.3) ? roll.pick(['V20', 'V5', 'N0']) : null,
          description: roll.pick(['Fuel 100% sea_route', 'wages', 'Ünïcode “quotes”, comma', 'back\\slash']),
          entryDescription: roll.pick(['June run', 'FUEL order', '', 'which?', 'from..to', '~none']),
        },
        parts,
      );
    }
    if (yearEnd === 'booked') closeYears(code, cal, lines, entryLines);
  }
  return { entities: known, trees: TREES, lines };
}

/** Closing entries in the last period of the first two years, as a ledger that books them has. */
function closeYears(
  code: string,
  cal: ReturnType<typeof calendar>,
  lines: Line[],
  entryLines: (number: string, date: string, period: number, rest: Partial<Line>, parts: Partial<Line>[]) => void,
): void {
  for (const year of [2025, 2026]) {
    const periods = cal.periodsOf(year);
    const last = periods[periods.length - 1];
    if (!last) continue;
    const parts: Partial<Line>[] = [];
    for (const { code: account } of CHART.filter((a) => a.posting && (a.type === 'income' || a.type === 'expense'))) {
      const held = lines
        .filter((l) => l.entity === code && l.account === account && yearOf(l.period) === year && l.status === 'posted')
        .reduce((a, l) => a + l.amount, 0);
      if (held !== 0) parts.push({ account, amount: -held, side: held > 0 ? 'credit' : 'debit' });
    }
    const result = -parts.reduce((a, p) => a + (p.amount ?? 0), 0);
    parts.push({ account: RETAINED, amount: result, side: result < 0 ? 'credit' : 'debit' });
    entryLines(`${code}-CL${numberOf(last.ordinal)}-${year}`, last.to, last.ordinal, { kind: 'closing' }, parts);
  }
}

/** A random question about some of the entities. */
export function randomFigure(roll: Dice, ledger: Ledger, entities: string[]): Figure {
  const cal = (ledger.entities.get(entities[0] as string) as LedgerEntity).calendar;
  const years = [2025, 2026, 2027];
  const window = ((): Figure['window'] => {
    if (roll.chance(0.5)) {
      const periods = years.flatMap((y) => cal.periodsOf(y)).map((p) => p.ordinal);
      const [from, to] = [roll.pick(periods), roll.pick(periods)].sort((a, b) => a - b) as [number, number];
      return { by: 'period', from, to };
    }
    const start = yearSpan(cal, 2025).from;
    const [from, to] = [addDays(start, roll.whole(0, 1090)), addDays(start, roll.whole(0, 1090))].sort() as [
      string,
      string,
    ];
    return { by: 'date', from, to };
  })();
  const where: Clause[] = [];
  const picks: MemberPick[][] = [
    [{ is: 'tree', code: 'N1' }],
    [{ is: 'tree', code: 'N' }, { is: 'none' }],
    [{ is: 'direct', code: 'N' }],
    [{ is: 'tree', code: 'EMPTY' }],
    [
      { is: 'tree', code: 'S' },
      { is: 'tree', code: 'N11' },
    ],
  ];
  if (roll.chance(0.35)) where.push({ on: 'dim', dim: 'unit', any: roll.pick(picks) });
  if (roll.chance(0.2))
    where.push({
      on: 'dim',
      dim: 'fund',
      any: roll.pick<MemberPick[]>([[{ is: 'tree', code: 'F2' }], [{ is: 'none' }]]),
    });
  if (roll.chance(0.15)) where.push({ on: 'journal', any: roll.pick<(string | null)[]>([['GL'], ['AP', null]]) });
  if (roll.chance(0.1))
    where.push({
      on: 'dim',
      dim: 'unit',
      any: roll.pick<MemberPick[]>([[{ is: 'tree', code: 'N1' }], [{ is: 'none' }]]),
      not: true,
    });
  if (roll.chance(0.1))
    where.push({ on: 'counterparty', any: roll.pick<(string | null)[]>([['C1'], ['C?', null]]), not: true });
  if (roll.chance(0.05))
    where.push({
      on: 'approvedBy',
      any: roll.pick<(string | null)[]>([['eva'], ['f*', null]]),
      ...(roll.chance(0.4) ? { not: true } : {}),
    });
  if (roll.chance(0.05)) where.push({ on: 'dueDate', any: roll.pick<(string | null)[]>([['2025-*'], [null]]) });
  if (roll.chance(0.05)) where.push({ on: 'unit', any: ['l'] });
  if (roll.chance(0.08))
    where.push({
      on: 'enteredWhen',
      any: roll.pick([
        ['sat', 'sun'],
        ['mon.09', '.22'],
        ['.14', 'fri.--', 'wed'],
      ]),
    });
  if (roll.chance(0.06)) where.push({ on: 'begins', any: roll.pick([['1'], ['2', '37'], ['41', '5', '90']]) });
  if (roll.chance(0.1))
    where.push({
      on: 'taxCode',
      any: roll.pick<(string | null)[]>([['V*'], ['V20', null]]),
      ...(roll.chance(0.4) ? { not: true } : {}),
    });
  if (roll.chance(0.06))
    where.push({
      on: 'source',
      any: roll.pick<(string | null)[]>([['Yard'], [null]]),
      ...(roll.chance(0.4) ? { not: true } : {}),
    });
  if (roll.chance(0.06))
    where.push({ on: 'description', any: [roll.pick(['fuel*', '*a*', '~is:Fuel 100% sea_route'])] });
  if (roll.chance(0.06))
    where.push({ on: 'entryDescription', any: roll.pick<(string | null)[]>([[null], ['~is:which?'], ['G..K']]) });
  if (roll.chance(0.06)) where.push({ on: 'document', any: [roll.pick(['D-2..D-5', 'D-4..', '..D-3'])] });
  if (roll.chance(0.06))
    where.push({
      on: 'enteredAt',
      any: [roll.pick(['2025-02-01..2026-03', '2026-01-15..'])],
      ...(roll.chance(0.3) ? { not: true } : {}),
    });
  const span = roll.pick([
    { from: '2', to: null },
    { from: '-5', to: '3.50' },
    { from: '0.007', to: '0.007' },
    { from: null, to: '20' },
  ]);
  const spans = roll.pick<(typeof span | null)[]>([[span], [span, null]]);
  if (roll.chance(0.06)) where.push({ on: 'quantity', any: spans, ...(roll.chance(0.3) ? { not: true } : {}) });
  if (roll.chance(0.06))
    where.push({ on: 'currencyAmount', any: [{ from: '100', to: roll.pick([null, '500.5', '20000']) }] });
  if (roll.chance(0.06)) where.push({ on: 'taxAmount', any: spans });
  if (roll.chance(0.06))
    where.push({
      on: 'unitPrice',
      any: roll.pick<({ from: string; to: string | null } | null)[]>([[{ from: '500', to: '90000' }], [null]]),
    });
  if (roll.chance(0.06))
    where.push({ on: 'line', any: [{ from: '2', to: '2' }], ...(roll.chance(0.4) ? { not: true } : {}) });
  if (roll.chance(0.08)) where.push({ on: 'opposite', any: roll.pick([['1000'], ['4000', '5100']]) });
  if (roll.chance(0.05)) where.push({ on: 'entry', any: [roll.pick(['*-00*', '*1'])] });
  if (roll.chance(0.1)) where.push({ on: 'max', amount: roll.whole(500, 90_000) });
  if (roll.chance(0.1)) where.push({ on: 'text', contains: roll.pick(['fuel', '100%', 'sea_', '\\']) });
  if (roll.chance(0.1)) where.push({ on: 'min', amount: roll.whole(0, 40_000) });
  if (roll.chance(0.1))
    where.push({ on: 'kind', any: roll.pick([[LINE_KINDS[0]], ['reversal', 'adjustment', 'opening']]) });
  return {
    entities,
    accounts: roll.chance(0.4)
      ? parseSelection(
          roll.pick(['4', '1000 to 3100', '5*, except 5110', 'type expense, 3100', 'group Round', 'except 4000']),
        )
      : null,
    window,
    adjustments: roll.chance(0.3) ? 'without' : 'with',
    status: roll.pick(['posted', 'posted', 'all', 'unposted']),
    where,
    load: null,
  };
}
