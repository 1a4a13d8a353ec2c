import { addDays } from '@/core/dates';
import type { DemoEntry, DemoLine } from '../entry';
import type { Random } from '../random';
import type { Month } from './time';

/** What all who write in the demo's books share: chance that is the same every time, and numbers in series. */
export class Books {
  private readonly counters = new Map<string, number>();

  constructor(readonly random: Random) {}

  /** The next number of a series. */
  next(series: string): string {
    const count = (this.counters.get(series) ?? 0) + 1;
    this.counters.set(series, count);
    return `${series}-${String(count).padStart(5, '0')}`;
  }

  /** Some day of a month. */
  dayIn({ first, last }: Month): string {
    return addDays(first, this.random.whole(0, Number(last.slice(8)) - 1));
  }

  /** The head of a supplier’s invoice. */
  supplier(
    entity: DemoEntry['entity'],
    date: string,
    counterparty: [string, string],
    description: string,
  ): Omit<DemoEntry, 'lines'> {
    const document = this.next(`PI-${entity}`);
    return {
      entity,
      number: document,
      date,
      journal: 'PI',
      description,
      postedBy: 'mhald',
      counterparty,
      document,
      documentType: 'invoice',
      documentDate: date,
      dueDate: addDays(date, 30),
    };
  }

  /** Lines of an invoice with its tax, in pence. */
  withTax(account: string, net: number, creditor: string, dims: DemoLine['dims'] = {}): DemoLine[] {
    const tax = Math.round(net * 0.2);
    return [
      { account, amount: net, dims, tax: ['P20', tax] },
      { account: '1331', amount: tax },
      { account: creditor, amount: -(net + tax) },
    ];
  }

  /** An entry by hand; without lines, what is paid out for pay. */
  manual(
    entity: DemoEntry['entity'],
    date: string,
    description: string,
    lines: DemoLine[],
    postedBy = 'tek',
  ): DemoEntry {
    const all = lines.length > 0 ? lines : this.payOut(entity);
    return { entity, number: this.next(`JE-${entity}`), date, journal: 'JE', description, lines: all, postedBy };
  }

  private payOut(entity: DemoEntry['entity']): DemoLine[] {
    const [net, tax, pension] = (
      {
        KSF: [44_000_000, 20_500_000, 3_480_000],
        STL: [4_680_000, 2_210_000, 370_000],
        NHS: [132_000_000, 63_000_000, 10_500_000],
      } as const
    )[entity];
    const bank = entity === 'NHS' ? '1523' : '1520';
    return [
      { account: '2313', amount: net },
      { account: '2311', amount: tax },
      { account: '2312', amount: pension },
      { account: bank, amount: -(net + tax + pension) },
    ];
  }
}
