import { weekdayOf } from '@/core/dates';
import { allot } from '@/core/money';
import { ROUTES } from '../dimensions';
import type { DemoEntry, DemoLine } from '../entry';
import type { Books } from './books';
import { DRY_DOCK, SEASON, STORM } from './time';

/** Fares of every route and day, paid by card at the counter and online, or in cash on board. */
export function* tickets(books: Books, day: string, scale: number): Generator<DemoEntry> {
  const month = Number(day.slice(5, 7));
  const weekday = weekdayOf(day);
  for (const route of ROUTES) {
    const stormy = route.code === STORM.route && day >= STORM.from && day <= STORM.to;
    const docked = route.vessel === 'MAREN' && day >= DRY_DOCK.from && day <= DRY_DOCK.to;
    if (stormy && day !== STORM.from) continue;
    const growth = day < '2025-04-01' ? 1 : day < '2026-04-01' ? 1.035 : 1.07;
    const busy =
      (SEASON[month - 1] as number) * growth * (weekday === 5 || weekday === 0 ? 1.25 : weekday === 6 ? 1.15 : 0.9);
    const total = books.random.around(route.fares * busy * (docked ? 0.82 : 1), 0.18);
    const vessel = docked ? 'POOL' : route.vessel;
    for (const [i, part] of allot(total, new Array(scale).fill(1)).entries()) {
      const dims = { route: route.code, vessel };
      const [foot, concession, cars, coaches, cafe] = allot(part, [430, 90, 310, 50, 120]) as [
        number,
        number,
        number,
        number,
        number,
      ];
      const cash = Math.round(part * 0.07);
      const refund = books.random.next() < 0.06 ? books.random.whole(1_200, 9_800) : 0;
      const lines: DemoLine[] = [
        { account: '1510', amount: part - cash - refund },
        { account: '1512', amount: cash },
        { account: '4110', amount: -foot, dims },
        { account: '4111', amount: -concession, dims },
        { account: '4112', amount: -cars, dims },
        ...(coaches > 30_000
          ? [
              { account: '4113', amount: -coaches, dims },
              { account: '4120', amount: -cafe, dims },
            ]
          : [{ account: '4120', amount: -cafe - coaches, dims }]),
        ...(refund > 0 ? [{ account: '4116', amount: refund, dims, description: 'Refunds, sailings missed' }] : []),
      ];
      yield {
        ...{ entity: 'KSF', number: books.next('TS'), date: day, journal: 'TS', lines },
        description: scale === 1 ? `Ticket sales ${route.name}` : `Ticket sales ${route.name}, sailing ${i + 1}`,
        postedBy: 'ticketing',
      };
    }
  }
}
