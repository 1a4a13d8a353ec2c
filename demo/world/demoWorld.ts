import type { DemoEntry } from '../entry';
import { paperStories } from '../paperStories';
import { Random } from '../random';
import { stories } from '../stories';
import { bank } from './bank';
import { Books } from './books';
import { depreciation } from './depreciation';
import { freight } from './freight';
import { fuel } from './fuel';
import { grants } from './grants';
import { harbours } from './harbours';
import { office } from './office';
import { openings } from './openings';
import { payroll } from './payroll';
import { shops } from './shops';
import { tickets } from './tickets';
import { daysOf, months } from './time';
import { unposted } from './unposted';
import { upkeep } from './upkeep';
import { yard } from './yard';
import { yearEnd } from './yearEnd';

const SEED = 20_260_930;

/**
 * All entries of the demo world, the same every time. Nothing is booked that does not balance.
 * @param scale how many times the ticket sales are split into; 1 gives about 90,000 lines in all, 150 about ten million
 */
export function* demoWorld(scale = 1): Generator<DemoEntry> {
  const books = new Books(new Random(SEED));
  yield* openings();
  for (const month of months()) {
    for (const day of daysOf(month)) {
      yield* tickets(books, day, scale);
      yield* shops(books, day);
    }
    yield* freight(books, month);
    yield* fuel(books, month);
    yield* payroll(books, month);
    yield* grants(books, month);
    yield* harbours(books, month);
    yield* upkeep(books, month);
    yield* yard(books, month);
    yield* office(books, month);
    yield* depreciation(books, month);
    yield* bank(books, month);
    yield* yearEnd(books, month);
  }
  yield* unposted(books);
  yield* stories();
  yield* paperStories();
}
